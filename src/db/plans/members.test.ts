import { expect } from 'chai'
import fc from 'fast-check'
import { changeCases } from '#core/cases/contract.ts'
import { createLinks } from '#core/cases/link-contract.ts'
import { changeRequirements } from '#core/requirements/contract.ts'
import { ofRequirements } from '#core/finding/fields.ts'
import type { Condition, Filter } from '#core/lib/filter.ts'
import { shop, type Shop } from '#test/app.ts'
import { idsOf, makeCase, makeRequirements, makeSuite, requirement } from '#test/make.ts'
import { saveCase } from '#db/cases/cases.ts'
import { addChange, casesChangedAlone, lastChange } from '#db/history/changes.ts'
import { saveSuite } from './suites.ts'
import { sourceColumns, addSourceTo } from './sources.ts'
import { suitesNow } from './members.ts'
import { noticeAllSuites, openStays } from './stays.ts'

interface World {
  readonly own: Shop
  readonly suite: number
  readonly cases: readonly Known[]
}
interface Known {
  readonly id: number
  readonly importance: string
  readonly component: string
  readonly estimate: number | null
  /** What each of its requirements says. */
  readonly requirements: readonly { readonly component: string; readonly risk: number | null }[]
}

const importances = ['Critical', 'High', 'Low'] as const
const components = ['', 'Fares', 'Deck'] as const

/** Twelve cases that differ in what a rule may ask, linked to four requirements. */
async function world(): Promise<World> {
  const own = shop()
  const refs = await makeRequirements(own.lead, 'One', 'Two', 'Three', 'Four')
  const risks = [1, 2, null, 4]
  const facts = await Promise.all(refs.map((ref) => requirement(own.lead, ref)))
  for (const [at, { id }] of facts.entries()) {
    const risk = risks[at] ?? null
    await own.lead.ask(changeRequirements, {
      body: { ids: [id], set: { component: components[at % 3] ?? '', likelihood: risk, impact: risk && 2 } },
    })
  }
  const keys: string[] = []
  for (let n = 0; n < 12; n++) keys.push(await makeCase(own.lead, `Case ${n}`))
  const ids = await idsOf(own.lead, keys)
  const cases: Known[] = []
  for (const [at, id] of ids.entries()) {
    const set = {
      importance: importances[at % 3] ?? 'Low',
      component: components[(at >> 1) % 3] ?? '',
      estimate: at % 4 === 0 ? null : at,
    }
    await own.lead.ask(changeCases, { body: { ids: [id], set } })
    const linked = [at % 5, (at * 3) % 7].filter((each) => each < refs.length)
    const proves = [...new Set(linked)].map((each) => refs[each] ?? '')
    if (proves.length > 0) await own.lead.ask(createLinks, { body: { requirements: proves, cases: [keys[at] ?? ''] } })
    cases.push({
      id,
      ...set,
      requirements: [...new Set(linked)].map((each) => {
        const risk = risks[each] ?? null
        return { component: components[each % 3] ?? '', risk: risk && risk * 2 }
      }),
    })
  }
  const { id } = await makeSuite(own.lead, 'By rule', [])
  return { own, suite: id, cases }
}

const condition: fc.Arbitrary<Condition> = fc.oneof(
  fc.record({
    field: fc.constant('importance'),
    op: fc.constantFrom('is' as const, 'is not' as const),
    values: fc.uniqueArray(fc.constantFrom<string>(...importances), { minLength: 1, maxLength: 2 }),
  }),
  fc.record({
    field: fc.constantFrom('component', `${ofRequirements}component`),
    op: fc.constantFrom('is' as const, 'is not' as const, 'is empty' as const, 'is not empty' as const),
    values: fc.constantFrom<string>('Fares', 'Deck').map((value) => [value]),
  }),
  fc.record({
    field: fc.constantFrom('estimate', `${ofRequirements}risk`),
    op: fc.constantFrom('is' as const, 'above' as const, 'below' as const, 'is empty' as const),
    values: fc.integer({ min: 0, max: 9 }).map((value) => [value]),
  }),
)
const filter: fc.Arbitrary<Filter> = fc.letrec<{ filter: Filter }>((tie) => ({
  filter: fc.oneof(
    { maxDepth: 3, withCrossShrink: true },
    condition,
    fc.record({ all: fc.array(tie('filter'), { minLength: 1, maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('filter'), { minLength: 1, maxLength: 3 }) }),
  ),
})).filter

type Value = string | number | null
function holdsOf(value: Value, { op, values }: Condition): boolean {
  const none = value === null || value === ''
  switch (op) {
    case 'is':
      return value !== null && values.includes(value)
    case 'is not':
      return value === null || !values.includes(value)
    case 'above':
      return value !== null && Number(value) > Number(values[0])
    case 'below':
      return value !== null && Number(value) < Number(values[0])
    case 'is empty':
      return none
    default:
      return !none
  }
}

/** What a filter asks of a case, told from what was written: of its requirements one must do, and none where it denies. */
function fits(of: Known, asked: Filter): boolean {
  if ('all' in asked) return asked.all.every((part) => fits(of, part))
  if ('any' in asked) return asked.any.some((part) => fits(of, part))
  const own: Readonly<Record<string, Value>> = { ...of, requirements: null }
  if (!asked.field.startsWith(ofRequirements)) return holdsOf(own[asked.field] ?? null, asked)
  const name = asked.field.slice(ofRequirements.length) === 'risk' ? 'risk' : 'component'
  const denies = asked.op === 'is not' || asked.op === 'is empty'
  return denies
    ? of.requirements.every((each) => holdsOf(each[name], asked))
    : of.requirements.some((each) => holdsOf(each[name], asked))
}

describe('who a rule brings', () => {
  it('is every case the filter fits, told from what each says', async () => {
    const { own, suite, cases } = await world()
    const project = own.project().id
    await fc.assert(
      fc.asyncProperty(filter, async (asked) => {
        own.db.$client.exec('savepoint before')
        try {
          addSourceTo(
            own.db,
            { projectId: project, suiteId: suite, now: own.now() },
            sourceColumns({ kind: 'rule', words: '', filter: asked }, null),
          )
          const told = [...suitesNow(own.db, project).members(suite).keys()]
          const wanted = cases.filter((each) => fits(each, asked)).map(({ id }) => id)
          expect(told).to.have.members(wanted)
          // Written down, it says the same.
          noticeAllSuites(own.db, project, { now: own.now(), personId: null })
          expect(openStays(own.db, suite).map((stay) => stay.case)).to.have.members(wanted)
        } finally {
          own.db.$client.exec('rollback to before')
        }
      }),
      { numRuns: 150 },
    )
  })

  describe('after cases changed by themselves', () => {
    /** What single cases say, each with whether it can be told without reckoning all anew. */
    const edit = fc.record({
      at: fc.nat({ max: 11 }),
      set: fc.record({
        importance: fc.constantFrom(...importances),
        component: fc.constantFrom(...components),
        estimate: fc.option(fc.integer({ min: 1, max: 9 })),
      }),
    })
    it('holds only where reckoning all anew comes to the same, with the minutes there are now', async () => {
      const { own, suite, cases } = await world()
      const project = own.project().id
      await fc.assert(
        fc.asyncProperty(filter, edit, fc.constantFrom('hand', 'importance'), async (asked, { at, set }, order) => {
          own.db.$client.exec('savepoint before')
          try {
            addSourceTo(
              own.db,
              { projectId: project, suiteId: suite, now: own.now() },
              sourceColumns({ kind: 'rule', words: '', filter: asked }, null),
            )
            saveSuite(own.db, suite, { orderedBy: order })
            const kept = suitesNow(own.db, project)
            const before = [...kept.ordered(suite)]
            kept.minutes(suite)
            const last = lastChange(own.db, project)
            const id = cases[at]?.id ?? 0
            saveCase(own.db, id, set)
            addChange(own.db, { ...changed, projectId: project, at: own.now(), ownerId: id })
            const alone = casesChangedAlone(own.db, project, last)
            expect(alone).to.deep.equal([id])
            const anew = suitesNow(own.db, project)
            const same = new Set(before).size === new Set([...before, ...anew.ordered(suite)]).size
            const isSame = same && before.length === anew.ordered(suite).length
            expect(kept.holds([id])).to.equal(isSame)
            if (!isSame) return
            expect([kept.ordered(suite), kept.minutes(suite)]).to.deep.equal([anew.ordered(suite), anew.minutes(suite)])
          } finally {
            own.db.$client.exec('rollback to before')
          }
        }),
        { numRuns: 100 },
      )
    })
    it('is reckoned anew where a case came or went, and for what is no rule', async () => {
      const { own, suite, cases } = await world()
      const project = own.project().id
      const [first] = cases
      const id = first?.id ?? 0
      const kept = suitesNow(own.db, project)
      kept.minutes(suite)
      expect(kept.holds([id])).to.equal(true)
      saveCase(own.db, id, { retiredAt: own.now() })
      expect(kept.holds([id])).to.equal(false)
      expect(suitesNow(own.db, project).holds([])).to.equal(false)
      const branch = (await requirement(own.lead, 'RQ-1')).id
      addSourceTo(
        own.db,
        { projectId: project, suiteId: suite, now: own.now() },
        sourceColumns({ kind: 'branch', requirement: branch }, null),
      )
      const other = suitesNow(own.db, project)
      other.minutes(suite)
      expect(other.holds([id])).to.equal(false)
    })
    it('is asked only where nothing else happened that says anything of cases', () => {
      const own = shop()
      const project = own.project().id
      const add = (act: object) =>
        addChange(own.db, { ...changed, projectId: project, at: own.now(), ownerId: 7, ...act })
      const last = lastChange(own.db, project)
      add({})
      add({ kind: 'attempt', action: 'recorded', ownerId: 9 })
      expect(casesChangedAlone(own.db, project, last)).to.deep.equal([7])
      for (const act of [
        { action: 'linked' },
        { action: 'retired' },
        { kind: 'requirement' },
        { kind: 'folder', action: 'renamed' },
        { kind: 'suite' },
      ]) {
        const before = lastChange(own.db, project)
        add(act)
        expect(casesChangedAlone(own.db, project, before), JSON.stringify(act)).to.equal(null)
      }
    })
  })
})

const changed = { kind: 'case' as const, action: 'changed' as const, ref: 'TC-1', personId: null, detail: null }
