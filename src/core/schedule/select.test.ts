import { expect } from 'chai'
import fc from 'fast-check'
import { loadSolver } from '#server/schedule/solver.ts'
import { seeded } from '#core/lib/random.ts'
import { type Choosable, type Selecting, select } from './select.ts'

const thing = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g', 'h')
const items = (most: number) =>
  fc
    .array(fc.record({ minutes: fc.nat(20), covers: fc.array(thing, { maxLength: 4 }) }), { maxLength: most })
    .map((all) => all.map((each, at): Choosable => ({ key: `i${at}`, ...each })))
const model = (most: number): fc.Arbitrary<Selecting> =>
  fc.record({
    budget: fc.nat(60),
    items: items(most),
    worth: fc.dictionary(thing, fc.nat(25), { noNullPrototype: true }),
  })

const worthOf = ({ worth }: Selecting, chosen: readonly Choosable[]): number =>
  [...new Set(chosen.flatMap(({ covers }) => covers))].reduce((sum, each) => sum + (worth[each] ?? 0), 0)
const minutesOf = (chosen: readonly Choosable[]): number => chosen.reduce((sum, { minutes }) => sum + minutes, 0)

/** The most that any of all choices is worth. */
function mostOf(of: Selecting): number {
  let most = 0
  for (let bits = 0; bits < 1 << of.items.length; bits++) {
    const chosen = of.items.filter((_, at) => (bits >> at) & 1)
    if (minutesOf(chosen) <= of.budget) most = Math.max(most, worthOf(of, chosen))
  }
  return most
}

/** By worth for a minute, until nothing fits any more. */
function plainGreedy(of: Selecting): number {
  const chosen: Choosable[] = []
  for (;;) {
    const gain = (item: Choosable) => worthOf(of, [...chosen, item]) - worthOf(of, chosen)
    const [next] = of.items
      .filter((item) => !chosen.includes(item) && gain(item) > 0)
      .filter(({ minutes }) => minutesOf(chosen) + minutes <= of.budget)
      .sort((a, b) => gain(b) / b.minutes - gain(a) / a.minutes)
    if (!next) return worthOf(of, chosen)
    chosen.push(next)
  }
}

const chosenIn = (of: Selecting) => of.items.filter(({ key }) => select(of).chosen.includes(key))

describe('selection within a budget', () => {
  it('is the best there is of a few, and says so', () => {
    fc.assert(
      fc.property(model(10), (of) => {
        const { worth, bound } = select(of)
        expect(worth).to.be.closeTo(mostOf(of), 1e-6)
        expect(bound).to.equal(worth)
      }),
      { numRuns: 150 },
    )
  })

  it('keeps to the budget, adds up, and holds nothing that adds nothing', () => {
    fc.assert(
      fc.property(model(40), (of) => {
        const { minutes, worth, bound, chosen, why } = select(of)
        const own = chosenIn(of)
        expect(own.map(({ key }) => key)).to.have.members([...chosen])
        expect(minutes).to.equal(minutesOf(own)).and.to.be.at.most(of.budget)
        expect(worth).to.be.closeTo(worthOf(of, own), 1e-6)
        expect(bound).to.be.at.least(worth)
        expect(Object.keys(why)).to.have.members([...chosen])
        for (const item of own)
          expect(
            worthOf(of, own) -
              worthOf(
                of,
                own.filter((each) => each !== item),
              ),
          ).to.be.above(0)
      }),
    )
  })

  it('is at least what taking the best for a minute gives, and never above its bound', () => {
    fc.assert(
      fc.property(model(60), (of) => {
        const { worth, bound } = select(of)
        expect(worth).to.be.at.least(plainGreedy(of) - 1e-6)
        expect(bound).to.be.at.least(plainGreedy(of) - 1e-6)
      }),
      { numRuns: 60 },
    )
  })

  it('does better than the best for a minute where that is led astray', () => {
    const few = { budget: 10, worth: { small: 2, large: 10 } }
    const led = [
      { key: 'quick', minutes: 1, covers: ['small'] },
      { key: 'whole', minutes: 10, covers: ['large'] },
    ]
    expect(plainGreedy({ ...few, items: led })).to.equal(2)
    expect(select({ ...few, items: led }).chosen).to.deep.equal(['whole'])
    // The same among so many that not every choice can be tried.
    const idle = Array.from({ length: 80 }, (_, at) => ({ key: `x${at}`, minutes: 9, covers: ['small'] }))
    expect(select({ ...few, items: [...led, ...idle] }).chosen).to.deep.equal(['whole'])
  })

  it('covers a thing once, and one nobody knows is worth nothing', () => {
    const { chosen, worth, why } = select({
      budget: 100,
      worth: { r1: 12, r2: 3 },
      items: [
        { key: 'both', minutes: 5, covers: ['r1', 'r2', 'r1'] },
        { key: 'again', minutes: 1, covers: ['r2'] },
        { key: 'unknown', minutes: 1, covers: ['r9'] },
      ],
    })
    expect(worth).to.equal(15)
    expect(chosen).to.deep.equal(['both'])
    expect(why['both']).to.equal('adds r1, r2: 15 of worth in 5 min')
  })

  it('of nothing, or with no minute, is nothing', () => {
    expect(select({ budget: 0, items: [], worth: {} })).to.deep.equal({
      chosen: [],
      minutes: 0,
      worth: 0,
      bound: 0,
      why: {},
    })
    expect(
      select({ budget: 0, worth: { a: 1 }, items: [{ key: 'i', minutes: 1, covers: ['a'] }] }).chosen,
    ).to.deep.equal([])
  })

  describe('with a solver', () => {
    let solve: Awaited<ReturnType<typeof loadSolver>>
    before(async () => (solve = await loadSolver()))

    it('is the best there is of up to 25, and never better than its bound of more', () => {
      fc.assert(
        fc.property(model(14), (of) => {
          const { worth, bound, minutes } = select(of, solve)
          expect(worth).to.be.closeTo(mostOf(of), 1e-6)
          expect([bound >= worth, minutes <= of.budget]).to.deep.equal([true, true])
        }),
        { numRuns: 60 },
      )
      fc.assert(
        fc.property(model(60), (of) => {
          const { worth, bound } = select(of, solve)
          expect(worth).to.be.at.least(plainGreedy(of) - 1e-6)
          expect(bound).to.be.at.least(worth)
        }),
        { numRuns: 40 },
      )
    })

    it('comes within two per cent of its bound for 2,000 items and 1,500 things', () => {
      const random = seeded(5)
      const whole = (most: number) => Math.floor(random() * most)
      const items = Array.from({ length: 2000 }, (_, at) => ({
        key: `i${at}`,
        minutes: 5 + whole(40),
        covers: Array.from({ length: 1 + whole(6) }, () => `u${whole(1500)}`),
      }))
      const worth = Object.fromEntries(Array.from({ length: 1500 }, (_, at) => [`u${at}`, 1 + whole(25)]))
      const chosen = select({ budget: 6000, items, worth }, solve)
      expect(chosen.worth / chosen.bound).to.be.at.least(0.98)
      expect(Object.keys(chosen.why)).to.have.length(chosen.chosen.length)
    })
  })
})
