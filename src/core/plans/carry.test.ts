import { expect } from 'chai'
import fc from 'fast-check'
import { type CarryCase, carryGroupOf, carryGroups, type CarryGroup } from './carry.ts'

const verdict = fc.constantFrom('Passed', 'Failed', 'Blocked', 'Inconclusive', 'Not run', 'Skipped' as const)
const caseShape: fc.Arbitrary<CarryCase> = fc.record({
  id: fc.nat(),
  retired: fc.boolean(),
  requirements: fc.array(fc.record({ live: fc.boolean(), changedAt: fc.nat(20), suspect: fc.boolean() }), {
    maxLength: 3,
  }),
  slots: fc.array(
    verdict.chain((own) =>
      fc.record({ verdict: fc.constant(own), finishedAt: own === 'Not run' ? fc.constant(null) : fc.nat(20) }),
    ),
    { maxLength: 4 },
  ),
}) as fc.Arbitrary<CarryCase>

/** Each group’s own words, one by one; the first that holds counts. */
const holds: Readonly<Record<CarryGroup, (of: CarryCase) => boolean>> = {
  retired: (of) => of.retired,
  'basis gone': (of) => of.requirements.length > 0 && of.requirements.every(({ live }) => !live),
  failing: (of) => of.slots.some((slot) => ['Failed', 'Blocked', 'Inconclusive'].includes(slot.verdict)),
  'not executed': (of) => of.slots.length === 0 || !of.slots.every((slot) => slot.verdict === 'Passed'),
  'basis changed': (of) =>
    of.requirements.some(
      (each) => each.live && (each.suspect || of.slots.some((slot) => each.changedAt > (slot.finishedAt ?? 0))),
    ),
  'still holds': () => true,
}

describe('carrying a plan over', () => {
  it('puts every case into the first group that holds, and into no other', () => {
    fc.assert(
      fc.property(fc.array(caseShape, { maxLength: 20 }), (cases) => {
        const groups = carryGroups.map((group) => cases.filter((of) => carryGroupOf(of) === group))
        expect(groups.flat()).to.have.length(cases.length)
        for (const of of cases) expect(carryGroupOf(of)).to.equal(carryGroups.find((group) => holds[group](of)))
      }),
      { numRuns: 500 },
    )
  })
  const passed = { verdict: 'Passed', finishedAt: 10 } as const
  const proves = { live: true, changedAt: 5, suspect: false }
  const of = (more: Partial<CarryCase>): CarryCase => ({
    id: 1,
    retired: false,
    requirements: [proves],
    slots: [passed],
    ...more,
  })
  it('keeps what passed everywhere and rests on the same words', () => {
    expect(carryGroupOf(of({}))).to.equal('still holds')
    expect(carryGroupOf(of({ requirements: [] }))).to.equal('still holds')
  })
  it('sees a requirement worded anew after the result, or a link nobody confirmed', () => {
    expect(carryGroupOf(of({ requirements: [{ ...proves, changedAt: 11 }] }))).to.equal('basis changed')
    expect(carryGroupOf(of({ requirements: [{ ...proves, suspect: true }] }))).to.equal('basis changed')
    expect(carryGroupOf(of({ requirements: [{ ...proves, changedAt: 11, live: false }, proves] }))).to.equal(
      'still holds',
    )
  })
  it('sees one environment in which it was never executed, or failed', () => {
    expect(carryGroupOf(of({ slots: [passed, { verdict: 'Not run', finishedAt: null }] }))).to.equal('not executed')
    expect(carryGroupOf(of({ slots: [passed, { verdict: 'Skipped', finishedAt: 3 }] }))).to.equal('not executed')
    expect(carryGroupOf(of({ slots: [{ verdict: 'Blocked', finishedAt: 3 }, passed] }))).to.equal('failing')
  })
})
