import { expect } from 'chai'
import fc from 'fast-check'
import { emptyContent } from '#core/cases/steps.ts'
import { addCase } from '#db/cases/cases.ts'
import { addLink, endLink, openLinks } from '#db/cases/links.ts'
import { addVersion, workingCopy, writeContent } from '#db/cases/versions.ts'
import { addDefect, addDefectLink } from '#db/defects/queries.ts'
import { hideRows } from '#db/finding/search.ts'
import type { Db } from '#db/open.ts'
import { addChange } from '#db/history/changes.ts'
import { addPerson } from '#db/people/people.ts'
import { addCustomField, setTags, setValues } from '#db/projects/fields.ts'
import { addBuild, addEnvironment, addRelease } from '#db/projects/releases.ts'
import { addProject, takeNumbers } from '#db/projects/projects.ts'
import { addRequirement, requirementById, saveRequirement } from '#db/requirements/requirements.ts'
import { setTargets } from '#db/requirements/targets.ts'
import { addComment } from '#db/talk/queries.ts'
import { demoDb, memoryDb } from '../../../test/memory.ts'
import { archiveTables } from './archive-parts.ts'
import { dumpProject, loadProject } from './archive.ts'
import { addRelation } from './imports.ts'

const words = fc.string({ unit: 'grapheme', maxLength: 12 })
const act = fc.oneof(
  fc.record({ do: fc.constant('requirement' as const), title: words, under: fc.nat(5) }),
  fc.record({ do: fc.constant('case' as const), title: words, steps: fc.array(words, { maxLength: 3 }), value: words }),
  fc.record({ do: fc.constant('link' as const), from: fc.nat(5), to: fc.nat(5) }),
  fc.record({ do: fc.constant('unlink' as const), of: fc.nat(5) }),
  fc.record({ do: fc.constant('version' as const), of: fc.nat(5), why: words }),
  fc.record({ do: fc.constant('reword' as const), of: fc.nat(5), text: words }),
  fc.record({ do: fc.constant('delete' as const), of: fc.nat(5) }),
  fc.record({ do: fc.constant('defect' as const), title: words, of: fc.nat(5) }),
  fc.record({ do: fc.constant('value' as const), of: fc.nat(5), value: words, tag: words }),
  fc.record({ do: fc.constant('comment' as const), of: fc.nat(5), text: words }),
  fc.record({ do: fc.constant('relation' as const), from: fc.nat(5), to: fc.nat(5), kind: words }),
  fc.record({
    do: fc.constant('change' as const),
    of: fc.nat(5),
    action: fc.constantFrom('created' as const, 'changed' as const, 'written' as const),
  }),
)
type Act = typeof act extends fc.Arbitrary<infer T> ? T : never

/** A project made by acts in any order; what they name is taken from what is there. */
function build(acts: readonly Act[], noise: number): { db: Db; projectId: number } {
  const db = memoryDb()
  const by = { now: 1000, personId: 'ada', emptyFingerprint: 'e' }
  addPerson(db, { id: 'ada', name: 'Ada', email: 'ada@tarnsey.example', administrator: false, passwordHash: 'x' }, 1)
  // Rows of another project shift every id, so that none can be right by chance.
  const other = addProject(db, { key: 'OTHER', name: 'Other', product: 'Other', createdAt: 1 })
  for (let n = 0; n < noise; n++) addCase(db, { projectId: other, number: n + 1, title: `n${n}`, position: n }, by)
  const projectId = addProject(db, { key: 'FIRST', name: 'First', product: 'First', createdAt: 1, freshnessDays: 9.5 })
  const release = addRelease(db, projectId, { name: '1', state: 'In test', startOn: null, dueOn: null })
  const build = addBuild(db, projectId, { releaseId: release, name: 'b1', offeredAt: 5 })
  const environment = addEnvironment(db, projectId, { name: 'desk', seats: 2, values: { engine: 'Gecko' } })
  const field = {
    id: addCustomField(db, projectId, {
      owner: 'case',
      name: 'Deck',
      kind: 'text',
      required: false,
      choices: [],
      types: [],
    }),
    kind: 'text' as const,
  }
  const [requirements, cases]: [number[], number[]] = [[], []]
  let versions = 0
  const at = (all: readonly number[], index: number): number | undefined => all[index % Math.max(1, all.length)]
  for (const each of acts) {
    if (each.do === 'requirement') {
      const id = addRequirement(
        db,
        {
          projectId,
          number: takeNumbers(db, projectId, 'requirement'),
          parentId: at(requirements, each.under) ?? null,
          position: requirements.length,
          title: each.title,
          ownerId: 'ada',
        },
        by,
      )
      setTargets(db, id, [{ release, iteration: null }])
      requirements.push(id)
    }
    if (each.do === 'case') {
      const made = addCase(
        db,
        {
          projectId,
          number: takeNumbers(db, projectId, 'case'),
          title: each.title,
          position: cases.length,
          steps: each.steps.length,
        },
        by,
      )
      writeContent(
        db,
        { id: made.workingId, caseId: made.id },
        {
          ...emptyContent,
          steps: each.steps.map((action) => ({ id: null, action, expected: '', data: '' })),
          parameters: ['p'],
          rows: [{ p: each.value }],
        },
        each.value,
      )
      cases.push(made.id)
    }
    const [own, basis] =
      'of' in each
        ? [at(cases, each.of), at(requirements, each.of)]
        : 'from' in each
          ? [at(cases, each.to), at(requirements, each.from)]
          : [undefined, undefined]
    if (each.do === 'link' && own !== undefined && basis !== undefined)
      addLink(db, { projectId, requirementId: basis, caseId: own, revision: 1, versionId: null }, by)
    if (each.do === 'unlink' && own !== undefined)
      for (const link of openLinks(db, { caseId: own })) endLink(db, link.id, 2000)
    if (each.do === 'version' && own !== undefined)
      addVersion(db, workingCopy(db, own), {
        major: 0,
        minor: ++versions,
        state: 'Draft',
        why: each.why,
        now: 7,
        personId: 'ada',
      })
    if (each.do === 'reword' && basis !== undefined) {
      const before = requirementById(db, projectId, basis)
      if (before) saveRequirement(db, before, { text: each.text }, by)
    }
    if (each.do === 'delete' && own !== undefined) hideRows(db, 'test_case', [own], 3000)
    if (each.do === 'value' && own !== undefined) {
      setValues(db, field, own, [each.value])
      setTags(db, projectId, 'case', own, [each.tag])
    }
    if (each.do === 'comment' && own !== undefined)
      addComment(db, { projectId, ownerKind: 'case', ownerId: own, text: each.text, at: 5, personId: 'ada' })
    if (each.do === 'relation' && basis !== undefined) {
      const to = at(requirements, each.to)
      if (to !== undefined) addRelation(db, { projectId, fromId: basis, toId: to, kind: each.kind, now: 4 })
    }
    if (each.do === 'change' && own !== undefined)
      addChange(db, {
        projectId,
        at: 6,
        personId: 'ada',
        kind: 'case',
        ownerId: own,
        ref: 'TC-1',
        action: each.action,
        detail: { title: ['a', each.action] },
      })
    if (each.do === 'defect' && own !== undefined) {
      const id = addDefect(
        db,
        {
          projectId,
          number: takeNumbers(db, projectId, 'defect'),
          title: each.title,
          severity: 'Major',
          foundInBuildId: build,
          environmentId: environment,
          reporterId: 'ada',
        },
        by,
      )
      addDefectLink(db, { defectId: id, caseId: own, fromAt: 5 })
    }
  }
  return { db, projectId }
}

const told = (db: Db, projectId: number) => {
  const dump = dumpProject(db, projectId)
  return {
    manifest: dump.manifest,
    tables: new Map([...dump.tables].map(({ table, rows }) => [table, rows])),
    attachments: dump.attachments,
  }
}
const projectOf = (db: Db, key: string): number =>
  Number(Object(db.$client.prepare('select id from project where key = ?').get(key)).id)

it('gives any project back as it was, into another installation and beside itself', function () {
  this.timeout(300_000)
  fc.assert(
    fc.property(fc.array(act, { maxLength: 25 }), fc.nat(4), (acts, noise) => {
      const { db, projectId } = build(acts, noise)
      const first = told(db, projectId)
      const elsewhere = memoryDb()
      let people = 0
      for (const into of [elsewhere, db]) {
        loadProject(into, 'AGAIN', first.manifest, first.tables, {
          newPerson: () => `p${people++}`,
          clean: (html) => html,
        })
        expect(told(into, projectOf(into, 'AGAIN'))).to.deep.equal(first)
        expect(into.$client.pragma('foreign_key_check')).to.deep.equal([])
      }
    }),
    { numRuns: 60 },
  )
})
it('gives the demo project back with every verdict', async () => {
  const db = await demoDb(Date.UTC(2026, 10, 23, 10))
  const first = told(db, projectOf(db, 'FERRY'))
  expect(first.tables.get('attempt_step')?.length).to.be.greaterThan(1000)
  expect([...first.tables.keys()]).to.deep.equal(archiveTables)
  const into = memoryDb()
  let people = 0
  loadProject(into, 'FERRY', first.manifest, first.tables, { newPerson: () => `p${people++}`, clean: (html) => html })
  expect(told(into, projectOf(into, 'FERRY'))).to.deep.equal(first)
})
it('leaves out no table of a project', () => {
  const db = memoryDb()
  const all = db.$client
    .prepare(
      "select name from sqlite_schema where type = 'table' and name not like 'sqlite_%' and name not like 'search%' and name not like '\\_\\_%' escape '\\'",
    )
    .all()
    .map((row) => String(Object(row).name))
  // Of the installation and not of a project; or learned again from attempts; or, for acts of import, only good for taking them back where they were made; or a secret.
  const others = [
    'project',
    'sign_in',
    'account',
    'verification',
    'api_token',
    'calendar_address',
    'setting',
    'idempotency_key',
    'import_act',
    'learned_minutes',
    'minutes_model',
    'tracker',
    'absence',
    'group_member',
    'group_role',
    'password_link',
    'person_group',
    'person_picture',
    'second_factor',
    'security_event',
    'notice_letter',
  ]
  expect(all.filter((table) => !archiveTables.includes(table)).sort()).to.deep.equal(others.sort())
})
