import { expect } from 'chai'
import { listCases, readCase, storeWorkingCopy, updateCase } from '#core/cases/contract.ts'
import {
  createRoutine,
  cutRoutine,
  deleteRoutines,
  extractRoutine,
  listRoutines,
  readRoutine,
  repinUses,
  storeRoutine,
  updateRoutine,
} from '#core/reuse/contract.ts'
import {
  duplicateCases,
  mergeCases,
  moveSteps,
  sendCases,
  splitCase,
  takeBackCases,
  unmergeCase,
} from '#core/reuse/copy-contract.ts'
import { findAlike, findRepeats, findSame } from '#core/reuse/repeat-contract.ts'
import {
  createTable,
  deleteTable,
  holdRow,
  listTables,
  readTable,
  releaseRow,
  updateTable,
} from '#core/reuse/table-contract.ts'
import { createTemplate, deleteTemplate, listTemplates } from '#core/reuse/template-contract.ts'
import { addMember } from '#db/people/members.ts'
import { addProject } from '#db/projects/projects.ts'
import { type Shop, shop } from '#test/app.ts'
import { caseOf, idOf, idsOf, makeCase, makeRequirements, makeSuite, requirement } from '#test/make.ts'

const signIn = ['Open the till => It asks who you are', 'Sign in as {who} => Your name is shown']
const routine = async (of: Shop, title = 'Sign in') =>
  (await of.tester.ask(createRoutine, { body: { title, lines: signIn.join('\n') } })).key

/** Puts a routine before the steps of a case. */
async function insert(of: Shop, into: string, ref: string, values: Record<string, string> = { who: 'clerk' }) {
  const { content, contentStamp } = await caseOf(of.tester, into)
  const use = { kind: 'routine' as const, ref, values }
  const step = { id: null, action: '', expected: '', data: '', use }
  return of.tester.ask(storeWorkingCopy, {
    params: { ref: into },
    body: { content: { ...content, steps: [step, ...content.steps] }, stamp: contentStamp },
  })
}
const rewriteRoutine = async (of: Shop, ref: string, action: string) => {
  const { content, contentStamp } = await of.tester.ask(readRoutine, { params: { ref } })
  const steps = content.steps.map((step, at) => (at === 0 ? { ...step, action } : step))
  await of.tester.ask(storeRoutine, { params: { ref }, body: { content: { ...content, steps }, stamp: contentStamp } })
  return of.tester.ask(cutRoutine, { params: { ref } })
}

it('makes a routine of lines, whose values are asked of whoever inserts it', async () => {
  const of = shop()
  const key = await routine(of)
  const sheet = await of.viewer.ask(readRoutine, { params: { ref: key } })
  expect([sheet.steps, sheet.content.parameters]).to.deep.equal([2, ['who']])
  await of.tester.ask(updateRoutine, {
    params: { ref: key },
    body: { objective: 'At the start' },
    version: sheet.version,
  })
  expect((await of.viewer.ask(readRoutine, { params: { ref: key } })).objective).to.equal('At the start')
})
it('pins the version a case inserts, and offers the newer one', async () => {
  const of = shop()
  const [key, own] = [await routine(of), await makeCase(of.tester, 'Pays')]
  await insert(of, own, key)
  const cut = await rewriteRoutine(of, key, 'Switch the till on')
  const [row] = (await of.viewer.ask(listRoutines)).rows
  expect([row?.uses, row?.behind]).to.deep.equal([1, 1])
  const done = await of.tester.ask(repinUses, { params: { ref: key }, body: { in: [own], to: cut.id ?? 0 } })
  expect(done.changed).to.equal(1)
  expect((await of.viewer.ask(listRoutines)).rows[0]?.behind).to.equal(0)
  for (const back of done.undo) await of.tester.ask(repinUses, { params: { ref: key }, body: back })
  expect((await of.viewer.ask(listRoutines)).rows[0]?.behind).to.equal(1)
})
it('refuses a routine inside itself, and a version it does not have', async () => {
  const of = shop()
  const [key, own] = [await routine(of), await makeCase(of.tester, 'Pays')]
  const { content, contentStamp } = await of.tester.ask(readRoutine, { params: { ref: key } })
  const use = { kind: 'routine' as const, ref: key }
  const steps = [...content.steps, { id: null, action: '', expected: '', data: '', use }]
  const self = await of.tester.refused(storeRoutine, {
    params: { ref: key },
    body: { content: { ...content, steps }, stamp: contentStamp },
  })
  expect(self.detail).to.match(/into itself/)
  const other = (await of.tester.ask(cutRoutine, { params: { ref: await routine(of) }, body: {} })).id ?? 0
  const wrong = await of.tester.refused(repinUses, { params: { ref: key }, body: { in: [own], to: other } })
  expect(wrong.detail).to.equal(`${key} has no such version; nothing was changed.`)
})
it('deletes a routine only where nothing inserts it, and says in how many places it stands', async () => {
  const of = shop()
  const [key, own] = [await routine(of), await makeCase(of.tester, 'Pays')]
  await insert(of, own, key)
  const { id } = await of.viewer.ask(readRoutine, { params: { ref: key } })
  const refused = await of.lead.refused(deleteRoutines, { body: { ids: [id] } })
  expect(refused.detail).to.match(/^RT-1 is inserted in 1 place/)
  const { content, contentStamp } = await caseOf(of.tester, own)
  const rest = { ...content, steps: content.steps.slice(1) }
  await of.tester.ask(storeWorkingCopy, { params: { ref: own }, body: { content: rest, stamp: contentStamp } })
  expect((await of.lead.ask(deleteRoutines, { body: { ids: [id] } })).refs).to.deep.equal([key])
  const gone = await insert(of, own, key).catch((error: Error) => error.message)
  expect(gone).to.match(/is not in this project/)
})
it('finds steps that cases repeat, and makes a routine of them in each', async () => {
  const of = shop()
  const steps = ['Open the till => Open', 'Sign in => Signed in', 'Look => There']
  const [a, b] = [
    await makeCase(of.tester, 'A', { steps }),
    await makeCase(of.tester, 'B', { steps: [...steps, 'More'] }),
  ]
  const { rows } = await of.viewer.ask(findRepeats)
  expect([rows[0]?.length, rows[0]?.places.map((place) => place.case).sort()]).to.deep.equal([3, [a, b]])
  expect((await of.viewer.ask(findSame, { params: { ref: a }, query: { at: 0, length: 2 } })).places).to.deep.equal([
    { case: b, title: 'B', at: 0 },
  ])
  const made = await of.tester.ask(extractRoutine, {
    body: { title: 'Begin', length: 2, from: { case: a, at: 0 }, also: [{ case: b, at: 0 }] },
  })
  expect(made.cases).to.equal(2)
  expect((await caseOf(of.viewer, b)).content.steps.map(({ use, action }) => use?.ref ?? action)).to.deep.equal([
    made.key,
    'Look',
    'More',
  ])
})
it('makes no routine where one of the places says something else by now', async () => {
  const of = shop()
  const [a, b] = [
    await makeCase(of.tester, 'A', { steps: ['One', 'Two'] }),
    await makeCase(of.tester, 'B', { steps: ['One'] }),
  ]
  const refused = await of.tester.refused(extractRoutine, {
    body: { title: 'Begin', length: 2, from: { case: a, at: 0 }, also: [{ case: b, at: 0 }] },
  })
  expect(refused.detail).to.match(/does not say these steps/)
  expect((await of.viewer.ask(listRoutines)).total).to.equal(0)
})
it('copies cases with their steps and links, under keys of their own', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const own = await makeCase(of.tester, 'Pays', { proves: key })
  const done = await of.tester.ask(duplicateCases, { body: { ids: await idsOf(of.tester, [own]) } })
  const copy = await caseOf(of.viewer, done.keys[0] ?? '')
  expect([copy.title, copy.content.steps.length, copy.links.length]).to.deep.equal(['Pays (copy)', 1, 1])
})
it('splits a case in two, and moves steps from one to another', async () => {
  const of = shop()
  const own = await makeCase(of.tester, 'Pays', { steps: ['One', 'Two', 'Three'] })
  const steps = (await caseOf(of.tester, own)).content.steps.map(({ id }) => id ?? 0)
  const made = await of.tester.ask(splitCase, { params: { ref: own }, body: { from: steps[1] ?? 0, title: 'Rest' } })
  const said = async (ref: string) => (await caseOf(of.viewer, ref)).content.steps.map(({ action }) => action)
  expect([await said(own), await said(made.key)]).to.deep.equal([['One'], ['Two', 'Three']])
  await of.tester.ask(moveSteps, { params: { ref: own }, body: { steps: [steps[0] ?? 0], to: made.key, copy: true } })
  expect([await said(own), await said(made.key)]).to.deep.equal([['One'], ['Two', 'Three', 'One']])
  const gone = await of.tester.refused(moveSteps, {
    params: { ref: own },
    body: { steps: [steps[1] ?? 0], to: made.key, copy: false },
  })
  expect(gone.status).to.equal(412)
})
it('merges cases: links and pins go to the one that stays, and come back', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const [keep, drop] = [await makeCase(of.tester, 'Pays'), await makeCase(of.tester, 'Pays too', { proves: key })]
  await makeSuite(of.lead, 'Smoke', [drop])
  const done = await of.lead.ask(mergeCases, { body: { keep, drop: [drop] } })
  expect([done.links, done.dropped]).to.deep.equal([1, [drop]])
  const live = (await requirement(of.viewer, key)).linked.filter(({ retired }) => !retired)
  expect(live.map((linked) => linked.key)).to.deep.equal([keep])
  expect((await caseOf(of.viewer, drop)).mergedInto).to.equal(keep)
  await of.lead.ask(unmergeCase, { params: { ref: drop } })
  expect((await caseOf(of.viewer, drop)).mergedInto).to.equal(null)
  expect((await of.lead.refused(unmergeCase, { params: { ref: drop } })).detail).to.match(/is not merged/)
})
it('finds cases that say nearly the same', async () => {
  const of = shop()
  const steps = ['Insert the worn card slowly => It is read', 'Enter the secret number => It is taken']
  const keys = [
    await makeCase(of.tester, 'Worn card pays', { steps }),
    await makeCase(of.tester, 'A worn card pays', { steps }),
  ]
  await makeCase(of.tester, 'Closes in the evening', { steps: ['Count the coins => They are as many'] })
  const { rows } = await of.viewer.ask(findAlike)
  expect(rows.map((row) => row.cases.map((each) => each.key).sort())).to.deep.equal([keys])
})
it('sends cases to another project of the person’s, and the old key leads there', async () => {
  const of = shop()
  const other = addProject(of.db, { key: 'DEPOT', name: 'Depot', product: 'Depot', createdAt: of.now() })
  const own = await makeCase(of.tester, 'Pays')
  const ids = [await idOf(of.tester, own)]
  const body = { ids, project: 'DEPOT', move: true }
  expect((await of.lead.refused(sendCases, { body })).status).to.be.oneOf([403, 404])
  addMember(of.db, other, 'lead', { role: 'lead' })
  const done = await of.lead.ask(sendCases, { body })
  expect(done.keys).to.deep.equal(['TC-1'])
  const moved = await of.viewer.refused(readCase, { params: { ref: own } })
  expect([moved.status, moved.current]).to.deep.equal([410, { address: '/p/DEPOT/TC-1' }])
  const there = async () => (await of.lead.ask(listCases, { params: { key: 'DEPOT' } })).total
  expect(await there()).to.equal(1)
  const back = { copies: done.ids, moved: ids, project: 'DEPOT' }
  expect(await of.lead.ask(takeBackCases, { body: back })).to.deep.equal({ back: 1 })
  expect([await there(), (await caseOf(of.viewer, own)).title]).to.deep.equal([0, 'Pays'])
  expect((await of.tester.refused(takeBackCases, { body: back })).status).to.equal(403)
})

const table = async (of: Shop) => {
  const { id } = await of.tester.ask(createTable, { body: { name: 'Cards', columns: ['number', 'pin'] } })
  const { version } = await of.viewer.ask(readTable, { params: { id } })
  const rows = [
    { id: null, values: { number: '1', pin: '11' } },
    { id: null, values: { number: '2', pin: '22' } },
  ]
  await of.tester.ask(updateTable, { params: { id }, body: { rows }, version })
  return of.viewer.ask(readTable, { params: { id } })
}
it('keeps rows of values that cases share', async () => {
  const of = shop()
  const own = await table(of)
  expect(own.values.map(({ values }) => values['pin'])).to.deep.equal(['11', '22'])
  expect((await of.viewer.ask(listTables)).rows[0]).to.include({ name: 'Cards', rows: 2, held: 0 })
  expect((await of.tester.refused(createTable, { body: { name: 'Cards' } })).detail).to.match(/Cards/)
})
it('checks a row out to one person at a time, and keeps it from being taken away', async () => {
  const of = shop()
  const own = await table(of)
  const [row] = own.values
  const body = { row: row?.id ?? 0 }
  await of.tester.ask(holdRow, { params: { id: own.id }, body })
  expect((await of.lead.refused(holdRow, { params: { id: own.id }, body })).status).to.equal(422)
  const without = own.values.slice(1).map(({ id, values }) => ({ id, values }))
  const refused = await of.tester.refused(updateTable, {
    params: { id: own.id },
    body: { rows: without },
    version: own.version,
  })
  expect(refused.detail).to.match(/is checked out/)
  await of.tester.ask(releaseRow, { params: { id: own.id }, body })
  await of.lead.ask(holdRow, { params: { id: own.id }, body })
})
it('deletes a data table only where nothing uses it', async () => {
  const of = shop()
  const own = await table(of)
  const key = await makeCase(of.tester, 'Pays')
  const { content, contentStamp } = await caseOf(of.tester, key)
  const used = { ...content, table: { id: own.id, mode: 'each' as const } }
  await of.tester.ask(storeWorkingCopy, { params: { ref: key }, body: { content: used, stamp: contentStamp } })
  expect((await of.lead.refused(deleteTable, { params: { id: own.id } })).status).to.equal(422)
  const again = await caseOf(of.tester, key)
  const { table: _, ...rest } = again.content
  await of.tester.ask(storeWorkingCopy, { params: { ref: key }, body: { content: rest, stamp: again.contentStamp } })
  await of.lead.ask(deleteTable, { params: { id: own.id } })
  expect((await of.viewer.ask(listTables)).rows).to.deep.equal([])
  const back = { params: { id: own.id }, query: { undo: 'yes' as const } }
  await of.lead.ask(deleteTable, back)
  expect((await of.viewer.ask(listTables)).rows.map(({ id }) => id)).to.deep.equal([own.id])
  expect((await of.lead.refused(deleteTable, back)).status).to.equal(404)
})
it('keeps a case as a template others start from, one of a name', async () => {
  const of = shop()
  const own = await makeCase(of.tester, 'Pays', { steps: ['One', 'Two'] })
  const { version } = await caseOf(of.tester, own)
  await of.tester.ask(updateCase, { params: { ref: own }, body: { importance: 'High' }, version })
  const { id } = await of.tester.ask(createTemplate, { body: { name: 'Paying', case: own } })
  expect((await of.tester.refused(createTemplate, { body: { name: 'Paying', case: own } })).status).to.equal(422)
  expect((await of.viewer.ask(listTemplates)).rows[0]).to.include({ name: 'Paying', steps: 2 })
  await of.tester.ask(deleteTemplate, { params: { id } })
  expect((await of.tester.refused(deleteTemplate, { params: { id } })).status).to.equal(404)
  const back = { params: { id }, query: { undo: 'yes' as const } }
  await of.tester.ask(deleteTemplate, back)
  expect((await of.viewer.ask(listTemplates)).rows).to.have.length(1)
  expect((await of.tester.refused(deleteTemplate, back)).status).to.equal(404)
  await of.tester.ask(deleteTemplate, { params: { id } })
  await of.tester.ask(createTemplate, { body: { name: 'Paying', case: own } })
  expect((await of.tester.refused(deleteTemplate, back)).detail).to.match(/called Paying already/)
})
