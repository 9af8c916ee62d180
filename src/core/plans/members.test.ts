import { expect } from 'chai'
import fc from 'fast-check'
import {
  inSuiteOrder,
  type MemberFacts,
  memberChanges,
  membership,
  pinned,
  type SuiteDefinition,
  wayBack,
} from './members.ts'

const ids = fc.uniqueArray(fc.integer({ min: 1, max: 12 }), { maxLength: 6 })
/** Suites 1…5 whose sources are rules, each bringing what is said, and suites, which may lead round. */
const world = fc.array(
  fc.record({
    pins: ids,
    brought: fc.array(ids, { maxLength: 3 }),
    includes: fc.uniqueArray(fc.integer({ min: 1, max: 5 }), { maxLength: 2 }),
    excluded: ids,
  }),
  { minLength: 5, maxLength: 5 },
)
type World = typeof world extends fc.Arbitrary<infer W> ? W : never

function built(of: World) {
  const brings = new Map<number, readonly number[]>()
  const all = new Map(
    of.map(({ pins, brought, includes, excluded }, at): [number, SuiteDefinition] => {
      const rules = brought.map((cases, n) => {
        const id = (at + 1) * 100 + n
        brings.set(id, cases)
        return { id, kind: 'rule' as const, includes: null }
      })
      const suites = includes.map((suite) => ({
        id: (at + 1) * 100 + 50 + suite,
        kind: 'suite' as const,
        includes: suite,
      }))
      return [at + 1, { id: at + 1, pins, sources: [...rules, ...suites], excluded: new Set(excluded) }]
    }),
  )
  return { all, brings }
}

/** The same by trying every case: in when any way leads to it that no suite on the way leaves out. */
function isIn(of: World, suite: number, id: number, seen: ReadonlySet<number> = new Set()): boolean {
  const own = of[suite - 1]
  if (!own || seen.has(suite) || own.excluded.includes(id)) return false
  const further = new Set([...seen, suite])
  return (
    own.pins.includes(id) ||
    own.brought.some((cases) => cases.includes(id)) ||
    own.includes.some((each) => isIn(of, each, id, further))
  )
}

const hasNoCircle = (of: World): boolean =>
  of.every((_, at) =>
    of[at]!.includes.every(
      (each) => wayBack(new Map(of.map((own, n) => [n + 1, own.includes])), at + 1, each) === null,
    ),
  )

describe('who is in a suite', () => {
  it('is what any of its sources brings, once, less what it leaves out', () => {
    fc.assert(
      fc.property(world.filter(hasNoCircle), (of) => {
        const { all, brings } = built(of)
        const members = membership(all, ({ id }) => brings.get(id) ?? [])
        for (const suite of all.keys())
          for (let id = 1; id <= 12; id++)
            expect(members(suite).has(id), `TC-${id} in TS-${suite}`).to.equal(isIn(of, suite, id))
      }),
    )
  })

  it('comes to an end where suites lead round to themselves', () => {
    fc.assert(
      fc.property(world, (of) => {
        const { all, brings } = built(of)
        const members = membership(all, ({ id }) => brings.get(id) ?? [])
        for (const { id, pins, excluded } of all.values())
          expect([...members(id).keys()]).to.include.members(pins.filter((each) => !excluded.has(each)))
      }),
    )
  })

  it('says by which sources, a pin first', () => {
    const suite = {
      id: 1,
      pins: [7],
      sources: [
        { id: 31, kind: 'branch' as const, includes: null },
        { id: 32, kind: 'rule' as const, includes: null },
      ],
      excluded: new Set([9]),
    }
    const members = membership(new Map([[1, suite]]), ({ id }) => (id === 31 ? [7, 9] : [7, 5]))(1)
    expect([...members]).to.deep.equal([
      [7, [pinned, 31, 32]],
      [5, [32]],
    ])
  })
})

describe('a suite within a suite', () => {
  it('may not lead back, and the way that would is told', () => {
    const includes = new Map([
      [1, [2]],
      [2, [3]],
    ])
    expect(wayBack(includes, 1, 1)).to.deep.equal([1])
    expect(wayBack(includes, 3, 1)).to.deep.equal([1, 2, 3])
    expect(wayBack(includes, 1, 3)).to.equal(null)
  })
})

describe('the order of a suite', () => {
  const facts = (of: Partial<MemberFacts> & { number: number }): MemberFacts => ({
    importance: 2,
    risk: 0,
    outline: null,
    folder: null,
    place: null,
    ...of,
  })
  const known = new Map([
    [1, facts({ number: 1, place: 2, risk: 4, outline: 9, importance: 3 })],
    [2, facts({ number: 2, place: 1, risk: 20, folder: 1, importance: 1 })],
    [3, facts({ number: 3, outline: 2, importance: 0 })],
  ])
  const by = (order: Parameters<typeof inSuiteOrder>[1]) => inSuiteOrder([3, 2, 1], order, (id) => known.get(id)!)

  it('is by hand with newcomers last, or by what the cases are', () => {
    expect(by('hand')).to.deep.equal([2, 1, 3])
    expect(by('outline')).to.deep.equal([3, 1, 2])
    expect(by('importance')).to.deep.equal([3, 2, 1])
    expect(by('risk')).to.deep.equal([2, 1, 3])
    expect(by('folder')).to.deep.equal([2, 1, 3])
  })
})

describe('what changed in a suite', () => {
  it('written down, makes the stays say who is in now', () => {
    const stays = fc
      .uniqueArray(fc.record({ case: fc.integer({ min: 1, max: 9 }), sources: ids }), { selector: (stay) => stay.case })
      .map((all) => all.filter(({ sources }) => sources.length > 0))
    fc.assert(
      fc.property(stays, stays, (before, after) => {
        const now = new Map(after.map((stay): [number, readonly number[]] => [stay.case, stay.sources]))
        const { came, went, moved } = memberChanges(before, now)
        const written = new Map(before.map((stay): [number, readonly number[]] => [stay.case, stay.sources]))
        for (const id of went) written.delete(id)
        for (const stay of [...came, ...moved]) written.set(stay.case, stay.sources)
        expect([...written].sort()).to.deep.equal([...now].sort())
        expect(moved.filter((stay) => !before.some((each) => each.case === stay.case))).to.deep.equal([])
      }),
    )
  })
})
