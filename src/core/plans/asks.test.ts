import { expect } from 'chai'
import fc from 'fast-check'
import { type Ask, askWays, leastForPairs, type Place, reduced, slotsAsked, spread } from './asks.ts'

const factors = ['engine', 'device', 'database']
/** Up to nine environments of up to three factors; not every factor is named by each. */
const placesShape = fc
  .array(fc.tuple(fc.nat(2), fc.nat(2), fc.option(fc.nat(1), { nil: null })), { minLength: 1, maxLength: 9 })
  .map((rows) =>
    rows.map((row, at): Place => ({
      id: at + 1,
      values: Object.fromEntries(row.flatMap((value, n) => (value === null ? [] : [[factors[n]!, `v${value}`]]))),
    })),
  )

/** Pairs of values by the long way. */
function pairsOf({ values }: Place): string[] {
  const all = Object.entries(values)
  return all.flatMap(([f, v]) => [`${f}=${v}`, ...all.flatMap(([g, w]) => (f < g ? [`${f}=${v}&${g}=${w}`] : []))])
}
const covers = (places: readonly Place[], chosen: readonly number[]): boolean => {
  const held = new Set(places.filter(({ id }) => chosen.includes(id)).flatMap(pairsOf))
  return places.flatMap(pairsOf).every((pair) => held.has(pair))
}

describe('the least set of environments for pairs', () => {
  it('holds every pair, and no smaller set does', () => {
    fc.assert(
      fc.property(placesShape, (places) => {
        const least = leastForPairs(places)
        expect(covers(places, least)).to.equal(true)
        for (let set = 0; set < 1 << places.length; set++) {
          const chosen = places.filter((_, at) => set & (1 << at)).map(({ id }) => id)
          if (chosen.length < least.length) expect(covers(places, chosen)).to.equal(false)
        }
      }),
      { numRuns: 150 },
    )
  })
  it('is one environment where they stand for nothing, and none of none', () => {
    expect(
      leastForPairs([
        { id: 4, values: {} },
        { id: 7, values: {} },
      ]),
    ).to.deep.equal([4])
    expect(leastForPairs([])).to.deep.equal([])
  })
  it('is small for forty environments', () => {
    const places = Array.from({ length: 40 }, (_, at) => ({
      id: at + 1,
      values: { engine: `e${at % 4}`, device: `d${Math.floor(at / 4) % 5}`, database: `b${Math.floor(at / 20)}` },
    }))
    const least = leastForPairs(places)
    expect(covers(places, least)).to.equal(true)
    expect(least.length).to.be.within(20, 24)
  })
})

describe('spread', () => {
  it('meets every pair over cases no other requirement shares, and differs by at most one beyond', () => {
    fc.assert(
      fc.property(placesShape, fc.array(fc.nat(24), { minLength: 1, maxLength: 4 }), (places, sizes) => {
        let next = 0
        const cases = sizes.flatMap((size, requirement) =>
          Array.from({ length: size }, () => ({ id: ++next, requirements: [requirement + 1] })),
        )
        const dealt = spread(places, cases, new Map())
        const least = leastForPairs(places)
        sizes.forEach((size, requirement) => {
          const own = cases
            .filter(({ requirements }) => requirements[0] === requirement + 1)
            .map(({ id }) => dealt.get(id)!)
          if (size >= least.length) expect(covers(places, own)).to.equal(true)
          const counts = places.map(({ id }) => own.filter((each) => each === id).length)
          expect(Math.max(...counts) - Math.min(...counts)).to.be.at.most(1)
        })
      }),
      { numRuns: 300 },
    )
  })
  it('moves nothing that was dealt, and deals each newcomer to an environment there is', () => {
    fc.assert(
      fc.property(
        placesShape,
        fc.array(fc.array(fc.integer({ min: 1, max: 3 }), { maxLength: 3 }), { maxLength: 20 }),
        fc.nat(20),
        (places, links, known) => {
          const cases = links.map((requirements, at) => ({ id: at + 1, requirements }))
          const before = spread(places, cases.slice(0, known), new Map())
          const fresh = spread(places, cases, before)
          expect([...fresh.keys()]).to.deep.equal(cases.slice(known).map(({ id }) => id))
          for (const at of fresh.values()) expect(places.map(({ id }) => id)).to.include(at)
        },
      ),
    )
  })
  it('deals anew what was dealt to an environment that is no more', () => {
    const places = [{ id: 1, values: { engine: 'a' } }]
    expect([...spread(places, [{ id: 5, requirements: [] }], new Map([[5, 9]]))]).to.deep.equal([[5, 1]])
  })
})

const places: Place[] = [
  { id: 1, values: { engine: 'Chromium', device: 'desk' } },
  { id: 2, values: { engine: 'Chromium', device: 'phone' } },
  { id: 3, values: { engine: 'Gecko', device: 'desk' } },
]
/** Cases 1 to 4: 1 and 2 prove requirement 11 below 10, 3 proves 20, 4 nothing. */
const world = {
  places: new Map(places.map((place) => [place.id, place])),
  requirementsOf: (id: number) => [[], [11], [11], [20], []][id] ?? [],
  parentOf: (requirement: number) => (requirement === 11 ? 10 : null),
}
const plan = (asks: readonly Ask[], suites = [{ id: 1, cases: [1, 2, 3, 4] }], environments = [1, 2, 3]) =>
  slotsAsked({ suites, environments, asks, deals: new Map() }, world)
const ask = (about: Ask['about'], id: number, way: Ask['way'], environments: number[] | null = null): Ask => ({
  about,
  id,
  way,
  environments,
})

describe('what a plan asks for', () => {
  it('is each case in every environment where it says nothing else', () => {
    expect(plan([]).sets.get(1)).to.deep.equal([[1], [2], [3]])
    expect(plan([], undefined, []).sets.get(1)).to.deep.equal([[]])
  })
  it('is what is said of a case before its branch, its suite and all', () => {
    const told = plan([
      ask('plan', 0, 'any'),
      ask('suite', 1, 'all', [1, 2]),
      ask('requirement', 10, 'all', [3]),
      ask('case', 2, 'any', [2, 1]),
    ])
    expect([1, 2, 3, 4].map((id) => told.sets.get(id))).to.deep.equal([[[3]], [[1, 2]], [[1], [2]], [[1], [2]]])
    expect(told.ways.get(2)).to.deep.equal(['any'])
  })
  it('is united over the suites that hold a case; a set with another inside falls away', () => {
    const suites = [
      { id: 1, cases: [1] },
      { id: 2, cases: [1, 4] },
    ]
    const told = plan([ask('suite', 1, 'any'), ask('suite', 2, 'all', [2])], suites)
    expect(told.sets.get(1)).to.deep.equal([[2]])
    expect(told.sets.get(4)).to.deep.equal([[2]])
  })
  it('spreads over the environments of the ask, and keeps what was dealt', () => {
    const asks = [ask('plan', 0, 'spread')]
    const first = plan(asks)
    expect([...first.fresh.keys()]).to.deep.equal([1, 2, 3, 4])
    const again = slotsAsked(
      { suites: [{ id: 1, cases: [4, 3, 2, 1] }], environments: [1, 2, 3], asks, deals: first.fresh },
      world,
    )
    expect(again.fresh.size).to.equal(0)
    expect(again.sets).to.deep.equal(new Map([...first.sets].reverse()))
  })
  it('never asks for more in a cheaper way', () => {
    const counted = (way: Ask['way']) => [...plan([ask('plan', 0, way)]).sets.values()].flat().length
    expect(askWays.map(counted)).to.deep.equal([12, 4, 12, 4])
  })
  it('ends where an outline runs in a circle', () => {
    const circular = { ...world, parentOf: (id: number) => (id === 11 ? 10 : 11) }
    const told = slotsAsked(
      { suites: [{ id: 1, cases: [1] }], environments: [1], asks: [ask('requirement', 99, 'any')], deals: new Map() },
      circular,
    )
    expect(told.sets.get(1)).to.deep.equal([[1]])
  })
})

describe('sets of environments', () => {
  it('stay as long as none contains another: each stays answered, and none answers another', () => {
    const setShape = fc.uniqueArray(fc.integer({ min: 1, max: 5 }), { maxLength: 4 }).map((ids) => ids.sort())
    fc.assert(
      fc.property(fc.array(setShape, { minLength: 1, maxLength: 6 }), (sets) => {
        const left = reduced(sets)
        const within = (a: readonly number[], b: readonly number[]) =>
          b.length === 0 || (a.length > 0 && a.every((id) => b.includes(id)))
        for (const set of sets) expect(left.some((own) => within(own, set))).to.equal(true)
        for (const one of left) for (const other of left) if (one !== other) expect(within(one, other)).to.equal(false)
      }),
    )
  })
})
