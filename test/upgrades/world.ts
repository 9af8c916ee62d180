import { readCase, storeWorkingCopy } from '#core/cases/contract.ts'
import { saveView } from '#core/finding/contract.ts'
import { importFile } from '#core/formats/contract.ts'
import { createRoutine } from '#core/reuse/contract.ts'
import { createTable, updateTable } from '#core/reuse/table-contract.ts'
import { createTemplate } from '#core/reuse/template-contract.ts'
import { reviewCase, startSuggestion } from '#core/review/contract.ts'
import { undoVerdict } from '#core/runs/desk-contract.ts'
import { addComment } from '#core/talk/contract.ts'
import { acceptRows, createModel, writeChecklist } from '#core/techniques/contract.ts'
import { addCustomField, setTags, setValues } from '#db/projects/fields.ts'
import type { Db } from '#db/open.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, idOf, makeCase, makeDefect, makePlan, makeRequirements, makeRun, sent, whole } from '#test/make.ts'

const ages = {
  technique: 'boundaries' as const,
  body: {
    inputs: { age: { type: 'integer' as const, partitions: [{ name: 'adult', from: 16, to: 64, valid: true }] } },
    values: 2 as const,
  },
}
const file = 'Title,Steps,Expected\nTake a refund,Ask for it,It is paid — at once\n'

/** A small project with something in nearly every table, made by the use cases alone. */
export async function filledShop(): Promise<Db> {
  const of = shop()
  const [paid = '', aged = ''] = await makeRequirements(of.tester, 'Adults pay 12.50 €', 'Ages are whole years')
  const cases = [
    await makeCase(of.tester, 'Überfähre: pay “cash”', { proves: paid, steps: ['Pay => Paid', 'Leave => Gone'] }),
    await makeCase(of.tester, 'Pay by card', { proves: paid }),
  ]
  await write(of, cases)
  await draft(of, aged)
  await plan(of, cases)
  return of.db
}

async function write(of: Shop, [first = '']: readonly string[]): Promise<void> {
  const { db } = of
  await of.tester.ask(createRoutine, { body: { title: 'Sign in', lines: 'Open => Asked\nSign in as {who} => Known' } })
  const { content, contentStamp } = await of.tester.ask(readCase, { params: { ref: first } })
  const use = { kind: 'routine' as const, ref: 'RT-1', values: { who: 'clerk' } }
  const steps = [{ id: null, action: '', expected: '', data: '', use }, ...content.steps]
  const parameters = ['sum']
  const rows = [{ sum: '12.50' }, { sum: '0' }]
  await of.tester.ask(storeWorkingCopy, {
    params: { ref: first },
    body: { content: { ...content, steps, parameters, rows }, stamp: contentStamp },
  })
  await of.tester.ask(reviewCase, { params: { ref: first }, body: { to: 'In review', people: ['lead'] } })
  await of.lead.ask(reviewCase, { params: { ref: first }, body: { to: 'Approved' } })
  await of.lead.ask(startSuggestion, { params: { ref: first } })
  await of.tester.ask(createTemplate, { body: { name: 'Payment', case: first } })
  const { id } = await of.tester.ask(createTable, { body: { name: 'Cards', columns: ['number'] } })
  const values = [{ id: null, values: { number: '4000 1' } }]
  await of.tester.ask(updateTable, { params: { id }, body: { rows: values }, version: 1 })
  await of.tester.ask(addComment, { body: { ref: first, text: 'For @Lead Person' } })
  await of.viewer.ask(saveView, { body: { list: 'cases', name: 'Mine', query: 'tag=slow' } })
  await of.tester.ask(importFile, { query: { dry: 'no', format: 'csv', what: 'cases' }, file })
  const field = addCustomField(db, of.project().id, {
    owner: 'case',
    name: 'Deck',
    kind: 'text',
    required: false,
    choices: [],
    types: [],
  })
  const owner = await idOf(of.tester, first)
  setTags(db, of.project().id, 'case', owner, ['slow', 'ähnlich'])
  setValues(db, { id: field, kind: 'text' }, owner, ['C'])
}

async function draft(of: Shop, ref: string): Promise<void> {
  const { id } = await of.tester.ask(createModel, { params: { ref }, body: { name: 'Ages', model: ages } })
  const row = { row: { age: '16' }, title: 'Age 16', steps: [{ action: 'Enter 16', expected: 'Taken' }] }
  await of.tester.ask(acceptRows, { params: { id }, body: { as: 'cases', rows: [row], revision: 1 } })
  await of.tester.ask(writeChecklist, { params: { ref }, body: { lines: 'A child alone' } })
}

async function plan(of: Shop, cases: readonly string[]): Promise<void> {
  await makePlan(of, cases, of.environments)
  const run = await makeRun(of, cases, { environments: of.environments, people: ['tester', 'lead'] })
  const [first, second, third] = run.items
  const failed = await execute(of, first?.id ?? 0, 'Failed')
  await makeDefect(of, failed)
  of.pass(5 * minute)
  await execute(of, second?.id ?? 0, 'Passed')
  of.pass(5 * minute)
  const taken = await execute(of, third?.id ?? 0, 'Failed')
  await of.tester.ask(undoVerdict, { params: { id: taken.id }, body: sent(of) })
  await whole(of, taken.id, 'Blocked', 'The till does not start')
}
