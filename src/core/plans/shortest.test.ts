import { expect } from 'chai'
import fc from 'fast-check'
import { type Goal, shortestWay } from './shortest.ts'

const goalOf = (items: number): fc.Arbitrary<Goal> => {
  const item = fc.nat(items - 1)
  return fc.oneof(
    fc.record({
      kind: fc.constant('sum' as const),
      need: fc.integer({ min: 0, max: 6 }),
      weights: fc
        .uniqueArray(fc.tuple(item, fc.integer({ min: 1, max: 4 })), { selector: ([each]) => each, maxLength: items })
        .map((pairs) => new Map(pairs)),
    }),
    fc.record({
      kind: fc.constant('groups' as const),
      need: fc.integer({ min: 0, max: 5 }),
      groups: fc.array(
        fc.record({
          weight: fc.integer({ min: 1, max: 4 }),
          items: fc.uniqueArray(item, { minLength: 1, maxLength: 3 }),
        }),
        { maxLength: 4 },
      ),
    }),
  )
}
const problem = (least: number, most: number) =>
  fc.integer({ min: least, max: most }).chain((items) =>
    fc.record({
      minutes: fc.array(fc.integer({ min: 0, max: 30 }), { minLength: items, maxLength: items }),
      goals: fc.array(goalOf(items), { minLength: 1, maxLength: 4 }),
    }),
  )

const reached = (goal: Goal, chosen: ReadonlySet<number>): number =>
  goal.kind === 'sum'
    ? [...goal.weights].reduce((sum, [item, weight]) => sum + (chosen.has(item) ? weight : 0), 0)
    : goal.groups.reduce((sum, { weight, items }) => sum + (items.every((item) => chosen.has(item)) ? weight : 0), 0)
const isThere = (goals: readonly Goal[], chosen: ReadonlySet<number>): boolean =>
  goals.every((goal) => reached(goal, chosen) >= goal.need)
const sumOf = (minutes: readonly number[], chosen: Iterable<number>): number =>
  [...chosen].reduce((sum, item) => sum + (minutes[item] ?? 0), 0)

describe('the shortest way', () => {
  it('is the cheapest of all sets where there are few items', () => {
    fc.assert(
      fc.property(problem(1, 9), ({ minutes, goals }) => {
        const way = shortestWay(minutes, goals)
        let cheapest = Infinity
        for (let bits = 0; bits < 1 << minutes.length; bits++) {
          const chosen = new Set(minutes.flatMap((_, item) => ((bits >> item) & 1 ? [item] : [])))
          if (isThere(goals, chosen)) cheapest = Math.min(cheapest, sumOf(minutes, chosen))
        }
        expect(way?.minutes ?? Infinity).to.equal(cheapest)
      }),
      { numRuns: 200 },
    )
  })

  it('reaches every goal, and misses one without any of its items', () => {
    fc.assert(
      fc.property(problem(1, 40), ({ minutes, goals }) => {
        const way = shortestWay(minutes, goals)
        const all = new Set(minutes.keys())
        expect(way === null).to.equal(!isThere(goals, all))
        if (way === null) return
        expect(isThere(goals, new Set(way.items))).to.equal(true)
        expect(way.minutes).to.equal(sumOf(minutes, way.items))
        for (const item of way.items)
          expect(isThere(goals, new Set(way.items.filter((each) => each !== item)))).to.equal(false)
      }),
      { numRuns: 200 },
    )
  })

  it('is nothing where all is reached, and none where it cannot be', () => {
    expect(shortestWay([5], [])).to.deep.equal({ items: [], minutes: 0, exact: true })
    expect(shortestWay([5], [{ kind: 'sum', need: 0, weights: new Map() }])?.items).to.deep.equal([])
    expect(shortestWay([5], [{ kind: 'sum', need: 2, weights: new Map([[0, 1]]) }])).to.equal(null)
  })

  it('finds among many what every set would find among few', () => {
    // Forty items of a minute, and one dear one that does what ten do: the ten are cheaper.
    const minutes = [...Array.from({ length: 40 }, () => 1), 30]
    const weights = new Map<number, number>(minutes.map((_, item) => [item, item === 40 ? 10 : 1]))
    const way = shortestWay(minutes, [{ kind: 'sum', need: 10, weights }])
    expect([way?.minutes, way?.items.includes(40)]).to.deep.equal([10, false])
  })
})
