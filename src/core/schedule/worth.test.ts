import { expect } from 'chai'
import fc from 'fast-check'
import { asChoice, chanceToLearn, type Learnable, type Said, sharesOf, worthWords } from './worth.ts'
import { usualWeights } from '#core/projects/weights.ts'
import { select } from './select.ts'

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

describe('what places are worth', () => {
  it('add up to the risk that cases answer and what the cases add', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            risk: fc.integer({ min: 1, max: 25 }),
            cases: fc.uniqueArray(fc.nat(5)),
            answered: fc.constantFrom(0, 0.5, 1),
          }),
        ),
        fc.array(fc.record({ slots: fc.integer({ min: 1, max: 4 }), adds: fc.constantFrom(8, 4, 2, 1) }), {
          minLength: 6,
          maxLength: 6,
        }),
        (requirements, all) => {
          const cases = new Map(all.map((of, id) => [id, of]))
          const shares = sharesOf({ requirements, cases })
          const sum = [...shares].reduce((total, [id, share]) => total + share * cases.get(id)!.slots, 0)
          const risk = requirements.reduce((total, of) => total + (of.cases.length > 0 ? of.risk * of.answered : 0), 0)
          expect(sum).to.be.closeTo(risk + all.reduce((total, { adds }) => total + adds, 0), 1e-9)
        },
      ),
    )
  })

  it('are nothing where no place of it is asked for', () => {
    const shares = sharesOf({
      requirements: [{ risk: 20, cases: [1, 2], answered: 1 }],
      cases: new Map([
        [1, { slots: 0, adds: 8 }],
        [2, { slots: 2, adds: 2 }],
      ]),
    })
    expect([...shares]).to.deep.equal([
      [1, 0],
      [2, 11],
    ])
  })
})

it('a choice is worth, for each place, its share times the greatest chance among what was chosen for it', () => {
  const item = fc.record({
    place: fc.constantFrom('a', 'b', 'c'),
    chance: fc.integer({ min: 1, max: 10 }),
    minutes: fc.integer({ min: 1, max: 9 }),
  })
  const share = { a: 5, b: 11, c: 2 }
  fc.assert(
    fc.property(fc.array(item, { maxLength: 8 }), fc.nat(30), (all, budget) => {
      const items = all.map((of, at) => ({ ...of, key: `i${at}`, chance: of.chance / 10, share: share[of.place] }))
      const chosen = select({ budget, ...asChoice(items) })
      const best = { a: 0, b: 0, c: 0 }
      for (const of of items) if (chosen.chosen.includes(of.key)) best[of.place] = Math.max(best[of.place], of.chance)
      const worth = share.a * best.a + share.b * best.b + share.c * best.c
      expect(chosen.worth).to.be.closeTo(worth, 1e-9)
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
