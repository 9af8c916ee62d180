import { expect } from 'chai'
import fc from 'fast-check'
import {
  asChoice,
  chanceToLearn,
  type Learnable,
  partsAt,
  type Said,
  sharesOf,
  type Weighed,
  worthWords,
} from './worth.ts'
import { usualWeights } from '#core/projects/weights.ts'
import { choose } from './select.ts'

const learnable: fc.Arbitrary<Learnable> = fc
  .record({
    fails: fc.nat(20),
    passes: fc.nat(20),
    changed: fc.boolean(),
    openDefect: fc.boolean(),
    retest: fc.boolean(),
    confidence: fc.double({ min: 0, max: 1, noNaN: true }),
  })
  .map(({ passes, ...of }) => ({ ...of, n: of.fails + passes }))
const quiet: Learnable = { fails: 0, n: 20, changed: false, openDefect: false, retest: false, confidence: 1 }
const rate = fc.double({ min: 0, max: 1, noNaN: true })

describe('the chance to learn something', () => {
  it('is that of the formula, and its terms multiply out exactly', () => {
    fc.assert(
      fc.property(learnable, rate, (of, m) => {
        const { chance, terms } = chanceToLearn(of, m, usualWeights)
        const h = (of.fails + 2 * m) / (of.n + 2)
        const formula =
          1 -
          (1 - h) *
            (1 - 0.3 * Number(of.changed)) *
            (1 - 0.15 * Number(of.openDefect)) *
            (1 - 0.6 * Number(of.retest)) *
            (1 - 0.3 * (1 - of.confidence))
        expect(chance).to.be.closeTo(formula, 1e-12)
        expect(1 - terms.reduce((product, { leaves }) => product * leaves, 1)).to.equal(chance)
        expect(chance).to.be.within(0, 1)
      }),
    )
  })

  it('never falls because something more speaks for it', () => {
    fc.assert(
      fc.property(learnable, rate, fc.constantFrom('changed', 'openDefect', 'retest'), (of, m, more) => {
        const at = (given: Learnable) => chanceToLearn(given, m, usualWeights).chance
        expect(at({ ...of, [more]: true })).to.be.at.least(at({ ...of, [more]: false }) - 1e-12)
        expect(at({ ...of, confidence: 0 })).to.be.at.least(at(of) - 1e-12)
        expect(at({ ...of, fails: of.fails + 1, n: of.n + 1 })).to.be.at.least(at(of) - 1e-12)
      }),
    )
  })

  it('of a case nobody executed rests on the project’s rate and on that nothing stands', () => {
    const never = { ...quiet, n: 0, confidence: 0 }
    expect(chanceToLearn(never, 0.2, usualWeights).chance).to.be.closeTo(1 - 0.8 * 0.7, 1e-12)
  })
})

/** Three requirements over six cases, with places in up to three environments; some have drafting targets. */
const asked = fc.record({
  requirements: fc.array(
    fc.record({
      risk: fc.integer({ min: 1, max: 25 }),
      units: fc.array(
        fc.record({ cases: fc.uniqueArray(fc.nat(5), { minLength: 1 }), n: fc.integer({ min: 1, max: 9 }) }),
        {
          maxLength: 5,
        },
      ),
      open: fc.option(fc.nat(9)),
    }),
    { maxLength: 3 },
  ),
  cases: fc.array(
    fc.record({ slots: fc.uniqueArray(fc.constantFrom('1', '2', '1,2')), adds: fc.constantFrom(8, 4, 2, 1) }),
    { minLength: 6, maxLength: 6 },
  ),
})

describe('what places are worth', () => {
  it('adds up to the risk that places answer and what the cases add', () => {
    fc.assert(
      fc.property(asked, ({ requirements, cases: all }) => {
        const cases = new Map(all.map((of, id) => [id, of]))
        const targetsOf = ({ units, open }: (typeof requirements)[number]): number | null =>
          open === null ? null : open + units.reduce((sum, { n }) => sum + n, 0)
        const shares = sharesOf({
          requirements: requirements.map((of, id) => ({ ...of, id, targets: targetsOf(of) })),
          cases,
        })
        const parts = new Map(
          [...shares].flatMap(([id, own]) =>
            cases
              .get(id)!
              .slots.flatMap((slot) => partsAt(own, `${id}.${slot}`, slot).map(({ of, share }) => [of, share])),
          ),
        )
        const sum = [...parts.values()].reduce((total, share) => total + share, 0)
        const risk = requirements.reduce((total, of) => {
          const placed = of.units.filter((unit) => unit.cases.some((id) => all[id]!.slots.length > 0))
          const answered = placed.reduce((n, unit) => n + unit.n, 0)
          return answered === 0 ? total : total + (of.risk * answered) / (targetsOf(of) ?? answered)
        }, 0)
        const added = all.reduce((total, { adds, slots }) => total + (slots.length > 0 ? adds : 0), 0)
        expect(sum).to.be.closeTo(risk + added, 1e-9)
      }),
    )
  })

  it('is nothing where no place of it is asked for', () => {
    const shares = sharesOf({
      requirements: [{ id: 1, risk: 20, units: [1, 2].map((each) => ({ cases: [each], n: 1 })), targets: null }],
      cases: new Map([
        [1, { slots: [], adds: 8 }],
        [2, { slots: ['1', '2'], adds: 2 }],
      ]),
    })
    expect(shares.get(1)).to.deep.equal({ own: 0, shared: [] })
    expect(shares.get(2)).to.deep.equal({ own: 11, shared: [] })
  })

  it('is more for a case that alone answers many drafting targets than for one that answers a single one', () => {
    const shares = sharesOf({
      // Ten targets: six by the first alone, one by the second alone, one by either of them, two by none.
      requirements: [
        {
          id: 7,
          risk: 20,
          units: [
            { cases: [1], n: 6 },
            { cases: [2], n: 1 },
            { cases: [1, 2], n: 1 },
          ],
          targets: 10,
        },
      ],
      cases: new Map([1, 2].map((id) => [id, { slots: ['3'], adds: 0 }])),
    })
    expect(shares.get(1)).to.deep.equal({ own: 12, shared: [{ of: '7:2', share: 2 }] })
    expect(shares.get(2)).to.deep.equal({ own: 2, shared: [{ of: '7:2', share: 2 }] })
  })

  it('counts what two cases answer once in an environment, and again in another', () => {
    const both = { own: 1, shared: [{ of: '7:2', share: 2 }] }
    const of = (key: string, slot: string) => ({ key, minutes: 1, chance: 1, parts: partsAt(both, key, slot) })
    const worth = (items: readonly Weighed[]) => choose({ budget: Infinity, ...asChoice(items) }).worth
    expect(worth([of('1', 'a'), of('2', 'a')])).to.equal(4)
    expect(worth([of('1', 'a'), of('2', 'b')])).to.equal(6)
  })
})

it('a choice is worth, for each part, its share times the greatest chance among what was chosen for it', () => {
  const share = { a: 5, b: 11, c: 2, d: 1 }
  type Name = keyof typeof share
  const item = fc.record({
    names: fc.uniqueArray(fc.constantFrom<Name>('a', 'b', 'c', 'd'), { minLength: 1 }),
    chance: fc.integer({ min: 1, max: 10 }),
    minutes: fc.integer({ min: 1, max: 9 }),
  })
  fc.assert(
    fc.property(fc.array(item, { maxLength: 8 }), fc.nat(30), (all, budget) => {
      const items = all.map(({ names, minutes, chance }, at) => ({
        key: `i${at}`,
        minutes,
        chance: chance / 10,
        names,
        parts: names.map((of) => ({ of, share: share[of] })),
      }))
      const chosen = choose({ budget, ...asChoice(items) })
      const best: Record<Name, number> = { a: 0, b: 0, c: 0, d: 0 }
      for (const [at, { names, chance }] of items.entries())
        if (chosen.chosen.includes(at)) for (const name of names) best[name] = Math.max(best[name], chance)
      const worth = (Object.keys(share) as Name[]).reduce((sum, name) => sum + share[name] * best[name], 0)
      expect(chosen.worth).to.be.closeTo(worth, 1e-9)
    }),
  )
})

it('a part that hundreds answer is cut into few levels, none of which promises more than the likeliest brings', () => {
  const chances = fc.array(
    fc.nat(1000).map((n) => n / 1000),
    { minLength: 1, maxLength: 80, size: 'max' },
  )
  fc.assert(
    fc.property(chances, (all) => {
      const items = all.map((chance, at) => ({ key: `i${at}`, minutes: 1, chance, parts: [{ of: 'one', share: 10 }] }))
      const { covers, worth } = asChoice(items)
      const promised = covers.map((own) => own.reduce((sum, thing) => sum + worth[thing]!, 0))
      const most = Math.max(...all)
      expect(worth.length).to.be.at.most(32)
      expect(Math.max(...promised)).to.be.closeTo(10 * most, 1e-9)
      const apart = new Set(all).size
      all.forEach((chance, at) => {
        expect(promised[at]).to.be.at.most(10 * chance + 1e-9)
        if (apart <= 32) expect(promised[at]).to.be.closeTo(10 * chance, 1e-9)
      })
    }),
  )
})

it('says why in a few words, the strongest first', () => {
  const said = (of: Partial<Said>): string =>
    worthWords({ ...quiet, verdict: 'Passed', reasons: [], build: '2.4.0-rc1', risk: 9, ...of })
  expect(said({})).to.equal('current')
  expect(said({ verdict: 'Failed', fails: 1, reasons: ['older build'] })).to.equal('failed on 2.4.0-rc1')
  expect(said({ verdict: 'Failed', retest: true, openDefect: true, risk: 25 })).to.equal('a repair to try, risk 25')
  expect(said({ fails: 3, n: 8, reasons: ['older build'] })).to.equal('failed 3 of 8 times, not since 2.4.0-rc1')
  expect(said({ build: null, n: 0, confidence: 0 })).to.equal('never executed')
  expect(said({ reasons: ['case changed', 'requirement changed'] })).to.equal('requirement changed, case changed')
})
