import { expect } from 'chai'
import fc from 'fast-check'
import { verdicts } from '#core/lib/verdict.ts'
import { bitsOf, compose, reasonsFor, type RunReason, runReasons, whyAgain } from './compose.ts'
import { staleReasons } from './freshness.ts'

const passed = { verdict: 'Passed', stale: [], laterBuilds: 0, touchedBy: 0 } as const

describe('why a case is executed again', () => {
  for (const [known, reasons] of [
    [passed, []],
    [{ ...passed, verdict: 'Failed' }, ['failed']],
    [{ ...passed, verdict: 'Blocked' }, ['stuck']],
    [{ ...passed, verdict: 'Inconclusive' }, ['stuck']],
    [{ ...passed, verdict: 'Not run' }, ['never tried']],
    [{ ...passed, verdict: 'In progress', stale: ['too old'] }, ['never tried']],
    [{ ...passed, verdict: 'Skipped' }, ['never tried']],
    [{ ...passed, stale: ['older build'], laterBuilds: 1 }, []],
    [{ ...passed, stale: ['older build'], laterBuilds: 2 }, ['too old']],
    [{ ...passed, stale: ['older build'], laterBuilds: 1, touchedBy: 1 }, ['basis changed']],
    [{ ...passed, stale: ['doubted'] }, ['basis changed']],
    [
      { ...passed, verdict: 'Failed', stale: ['defect fixed since', 'too old'] },
      ['failed', 'basis changed', 'too old'],
    ],
  ] as const)
    it(`is ${reasons.join(', ') || 'none'} for ${known.verdict}${known.stale.map((each) => `, ${each}`).join('')}, ${known.laterBuilds} builds later`, () =>
      expect(reasonsFor(known)).to.deep.equal(reasons))

  it('is said with what it waits for, and what changed', () => {
    const of = { ...passed, days: 20, open: [], repaired: [], reworded: [] }
    const said = (told: Partial<Parameters<typeof whyAgain>[0]>) =>
      whyAgain({ ...of, ...told, reasons: reasonsFor({ ...of, ...told }) })
    expect(said({ verdict: 'Blocked', open: ['DF-22'] })).to.equal('stuck: DF-22')
    expect(said({ verdict: 'Blocked', repaired: ['DF-22'] })).to.equal('stuck, freed since')
    expect(said({ verdict: 'Failed', stale: ['defect fixed since'], repaired: ['DF-8'] })).to.equal(
      'failed · DF-8 fixed',
    )
    expect(said({ stale: ['requirement changed', 'case changed'], reworded: ['RQ-11'] })).to.equal(
      'RQ-11 changed · case changed',
    )
    expect(said({ stale: ['too old', 'older build'], laterBuilds: 3 })).to.equal('20 days old · 3 builds since')
  })
})

const anyKnown = fc.record({
  verdict: fc.constantFrom(...verdicts),
  stale: fc.uniqueArray(fc.constantFrom(...staleReasons)),
  laterBuilds: fc.nat(3),
  touchedBy: fc.nat(1),
})
const anyReasons = fc.uniqueArray(fc.constantFrom<RunReason>(...runReasons))

const unitOf = (known: Parameters<typeof reasonsFor>[0], id: number) => {
  const reasons = reasonsFor(known)
  return { id, reasons, bits: bitsOf(reasons) }
}

describe('what is executed again', () => {
  it('is what one of the chosen reasons holds for, each once, and is counted by each', () =>
    fc.assert(
      fc.property(fc.array(anyKnown), anyReasons, (all, chosen) => {
        const units = all.map((known, id) => unitOf(known, id))
        const told = compose(
          units.map(({ bits }) => bits),
          chosen,
        )
        const held = (unit: (typeof units)[number]) => chosen.filter((reason) => unit.reasons.includes(reason)).length
        expect(told.at).to.deep.equal(units.flatMap((unit) => (held(unit) > 0 ? [unit.id] : [])))
        expect([told.one, told.several]).to.deep.equal([
          units.filter((unit) => held(unit) === 1).length,
          units.filter((unit) => held(unit) > 1).length,
        ])
        for (const reason of runReasons)
          expect(told.counts[reason]).to.equal(units.filter(({ reasons }) => reasons.includes(reason)).length)
      }),
    ))
  it('is looked for among some alone, where they are named', () =>
    fc.assert(
      fc.property(fc.array(anyKnown, { minLength: 1 }), anyReasons, fc.array(fc.boolean()), (all, chosen, named) => {
        const bits = all.map((known, id) => unitOf(known, id).bits)
        const among = bits.flatMap((_, at) => (named[at] ? [at] : []))
        const told = compose(bits, chosen, among)
        expect(told.at).to.deep.equal(compose(bits, chosen).at.filter((at) => among.includes(at)))
        expect(told.counts).to.deep.equal(
          compose(
            among.map((at) => bits[at] ?? 0),
            chosen,
          ).counts,
        )
      }),
    ))
  it('grows with each reason: they add up and take nothing away', () =>
    fc.assert(
      fc.property(fc.array(anyKnown), anyReasons, fc.constantFrom<RunReason>(...runReasons), (all, chosen, more) => {
        const units = all.map((known, id) => unitOf(known, id))
        const bits = units.map((unit) => unit.bits)
        const after = new Set(compose(bits, [...chosen, more]).at)
        for (const at of compose(bits, chosen).at) expect(after.has(at)).to.equal(true)
      }),
    ))
  it('has a reason wherever a result is not to be believed, but for a single build nobody said anything of', () =>
    fc.assert(
      fc.property(anyKnown, (known) => {
        const stale = known.stale.filter((reason) => reason !== 'older build')
        if (stale.length > 0 || known.verdict !== 'Passed') expect(reasonsFor(known)).to.not.deep.equal([])
      }),
    ))
})
