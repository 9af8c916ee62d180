import { expect } from 'chai'
import fc from 'fast-check'
import { type CaseRead, type FileRead, nothingRead, plainCase, type RequirementRead } from '#core/formats/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { readContent, workingCopy, writeContent } from '#db/cases/versions.ts'
import { dumpProject } from '#db/formats/archive.ts'
import type { Db } from '#db/open.ts'
import { addMember } from '#db/people/members.ts'
import { addPerson, nobody } from '#db/people/people.ts'
import { addProject, findProject } from '#db/projects/projects.ts'
import { addRelease } from '#db/projects/releases.ts'
import { contextOf } from '#server/http/context.ts'
import { caseReads, requirementReads } from '../../../test/arbitrary.ts'
import { memoryDb } from '../../../test/memory.ts'
import { planImport, type Store } from './import-read.ts'
import { storeImport } from './store-import.ts'
import { undoAct } from './undo-import.ts'

let clock = 1000
function start(): { db: Db; store: Store } {
  const db = memoryDb()
  addPerson(
    db,
    { id: 'mira', name: 'Mira Kell', email: 'mira@tarnsey.example', administrator: false, passwordHash: 'x' },
    1,
  )
  const projectId = addProject(db, { key: 'FERRY', name: 'Ferry', product: 'Ferry', createdAt: 1 })
  addMember(db, projectId, 'mira', { role: 'lead' })
  addRelease(db, projectId, { name: '2.4', state: 'In test', startOn: null, dueOn: null })
  const store: Store = (work) =>
    db.transaction((tx) => {
      const project = findProject(tx, 'FERRY')
      if (!project) throw new Error('no project')
      return work(
        contextOf({
          tx,
          now: ++clock,
          person: { ...nobody, id: 'mira', name: 'Mira Kell', email: '', administrator: false },
          project,
          role: 'lead',
          expected: 0,
          limit: null,
        }).context,
      )
    })
  return { db, store }
}
const nobodyAsks = { report: () => undefined, stopped: () => false }
const options = { source: 'file', release: null }
const fieldsOfCases = [
  'title',
  'objective',
  'preconditions',
  'importance',
  'type',
  'component',
  'folder',
  'estimate',
  'owner',
  'automation',
  'tags',
  'action',
  'expected',
  'data',
  'rows',
]
const ofCases = (cases: readonly CaseRead[]): FileRead => ({
  ...nothingRead,
  cases: cases.map((each) => ({
    ...each,
    requirements: [],
    type: each.type || 'Functional',
    component: each.component.slice(0, 80),
  })),
  fields: fieldsOfCases,
})
const ofRequirements = (requirements: readonly RequirementRead[]): FileRead => ({
  ...nothingRead,
  requirements: requirements.map((each) => ({
    ...each,
    component: each.component.slice(0, 80),
    reference: each.reference.slice(0, 80),
  })),
  fields: [
    'title',
    'text',
    'parent',
    'kind',
    'component',
    'state',
    'likelihood',
    'impact',
    'priority',
    'release',
    'reference',
    'owner',
    'tags',
  ],
})
/** What a project says, apart from who did what when and how often it was stored. */
const said = (db: Db) => {
  const dump = dumpProject(db, findProject(db, 'FERRY')?.id ?? 0)
  const timeless = (row: Record<string, unknown>) =>
    Object.fromEntries(
      Object.entries(row).filter(
        ([column]) => !['version', 'updated_at', 'created_at', 'id', 'revision'].includes(column),
      ),
    )
  return [...dump.tables]
    .filter(({ table }) =>
      ['test_case', 'version_step', 'data_row', 'requirement', 'tagging', 'folder', 'link'].includes(table),
    )
    .map(({ table, rows }) => [table, rows.map(timeless)])
}
const statuses = async (store: Store, read: FileRead) =>
  (await planImport(store, read, options)).entries.map(({ status }) => status)

it('finds every case it stored unchanged', () =>
  fc.assert(
    fc.asyncProperty(
      caseReads.filter((cases) => cases.length > 0),
      async (cases) => {
        const { store } = start()
        const read = ofCases(cases)
        expect((await storeImport(store, read, options)).counts.new).to.equal(cases.length)
        const plan = await planImport(store, read, options)
        expect(plan.entries.flatMap(({ changes }) => changes)).to.deep.equal([])
        expect(plan.entries.every(({ status }) => status === 'unchanged')).to.equal(true)
      },
    ),
    { numRuns: 40 },
  ))
it('finds every requirement it stored unchanged, with its place in the outline', () =>
  fc.assert(
    fc.asyncProperty(
      requirementReads.filter((all) => all.length > 0),
      async (requirements) => {
        const { store } = start()
        const read = ofRequirements(requirements)
        await storeImport(store, read, options)
        const plan = await planImport(store, read, options)
        expect(plan.problems).to.deep.equal([])
        expect(plan.entries.map(({ changes }) => changes.join())).to.deep.equal(requirements.map(() => ''))
      },
    ),
    { numRuns: 40 },
  ))
it('takes a second import back to what the first left, whatever it changed', () =>
  fc.assert(
    fc.asyncProperty(
      caseReads.filter((cases) => cases.length > 0),
      caseReads,
      async (first, second) => {
        const { db, store } = start()
        await storeImport(store, ofCases(first), options)
        const before = said(db)
        const next = ofCases([
          ...second.map((each, index) => ({ ...each, id: `X-${index}` })),
          ...first.slice(second.length),
        ])
        if (next.cases.length === 0) return
        const { act, counts } = await storeImport(store, next, options)
        expect(counts.new + counts.changed + counts.unchanged).to.equal(next.cases.length)
        expect((await statuses(store, next)).every((status) => status === 'unchanged')).to.equal(true)
        const undone = await undoAct(store, act, nobodyAsks)
        expect(undone.kept).to.deep.equal([])
        const live = (all: ReturnType<typeof said>) =>
          all.map(([table, rows]) => [
            table,
            Array.isArray(rows)
              ? rows
                  .filter((row) => row['deleted_at'] === null || row['deleted_at'] === undefined)
                  .map((row) => JSON.stringify(row))
                  .sort()
              : rows,
          ])
        const only = (all: ReturnType<typeof live>) => all.filter(([table]) => table === 'test_case')
        expect(only(live(said(db)))).to.deep.equal(only(live(before)))
        expect((await statuses(store, ofCases(first))).every((status) => status === 'unchanged')).to.equal(true)
      },
    ),
    { numRuns: 30 },
  ))
it('leaves nothing behind when it is cancelled half way', async () => {
  const { db, store } = start()
  const stop = new AbortController()
  const many = ofCases(
    Array.from({ length: 400 }, (_, index) => ({
      ...(fc.sample(caseReads, { numRuns: 1, seed: 3 })[0]?.[0] ?? { ...plainCase, row: 1, title: 'x' }),
      title: `Case ${index}`,
      id: `N-${index}`,
      row: index + 1,
    })),
  )
  const before = JSON.stringify(said(db).filter(([table]) => table !== 'folder'))
  let refused = ''
  try {
    await storeImport(store, many, {
      ...options,
      signal: stop.signal,
      onProgress: (done) => {
        if (done >= 100) stop.abort()
      },
    })
  } catch (error) {
    refused = error instanceof Refusal ? error.sentence : String(error)
  }
  expect(refused).to.equal('The import was cancelled; nothing was imported.')
  expect(JSON.stringify(said(db).filter(([table]) => table !== 'folder'))).to.equal(before)
})

it('refuses over steps that somebody typed after the plan was made, and keeps what was typed', async () => {
  const { db, store } = start()
  const one = (action: string) =>
    ofCases([
      { ...plainCase, row: 1, id: 'T-1', title: 'Typed over', steps: [{ id: null, action, expected: '', data: '' }] },
    ])
  await storeImport(store, one('as imported'), options)
  const plan = await planImport(store, one('imported again'), options)
  const id = plan.entries[0]?.id ?? 0
  store(({ tx }) =>
    writeContent(
      tx,
      { id: workingCopy(tx, id).id, caseId: id },
      {
        preconditions: '',
        steps: [{ id: null, action: 'as typed', expected: '', data: '' }],
        parameters: [],
        rows: [],
      },
      'typed',
    ),
  )
  let refused = ''
  try {
    await storeImport(store, one('imported again'), options, plan)
  } catch (error) {
    refused = error instanceof Refusal ? error.sentence : String(error)
  }
  expect(refused).to.equal(
    'Somebody changed TC-1 while the file was being imported; nothing was imported. Import it again.',
  )
  expect(readContent(db, workingCopy(db, id)).steps.map(({ action }) => action)).to.deep.equal(['as typed'])
})
