import { expect } from 'chai'
import fc from 'fast-check'
import { isFinal, type Verdict, verdicts } from '#core/lib/verdict.ts'
import { disagree, severalProblem, severalWords, verdictOfSeveral } from './several.ts'

describe('an item that several people judge', () => {
  it('passes as soon as enough pass it, and is the worst of the others as soon as that cannot come any more', () => {
    const of = { people: 3, passes: 2 }
    const told = (...said: Verdict[]) => verdictOfSeveral(said, of)
    expect([told(), told('Passed'), told('Failed'), told('Passed', 'Failed')]).to.deep.equal([
      'Not run',
      'In progress',
      'In progress',
      'In progress',
    ])
    expect([
      told('Passed', 'Failed', 'Passed'),
      told('Failed', 'Blocked'),
      told('Passed', 'Blocked', 'Inconclusive'),
    ]).to.deep.equal(['Passed', 'Failed', 'Blocked'])
    expect([told('Skipped', 'Passed', 'Passed'), told('Skipped', 'Skipped', 'Skipped')]).to.deep.equal([
      'Passed',
      'Skipped',
    ])
  })
  it('keeps what was decided whatever the others say, and comes to something when all have said', () => {
    const said = fc.array(fc.constantFrom<Verdict>('Passed', 'Failed', 'Blocked', 'Inconclusive'), { maxLength: 9 })
    const of = fc
      .integer({ min: 1, max: 9 })
      .chain((people) => fc.record({ people: fc.constant(people), passes: fc.integer({ min: 1, max: people }) }))
    fc.assert(
      fc.property(said, of, (all, several) => {
        const first = all.slice(0, several.people)
        const steps = first.map((_, at) => verdictOfSeveral(first.slice(0, at + 1), several))
        const passed = first.filter((verdict) => verdict === 'Passed').length
        const decided = steps.findIndex(isFinal)
        if (decided >= 0)
          for (const later of steps.slice(decided)) expect(later === 'Passed').to.equal(steps[decided] === 'Passed')
        if (first.length === several.people) {
          expect(isFinal(steps.at(-1) ?? 'Not run')).to.equal(true)
          expect(steps.at(-1) === 'Passed').to.equal(passed >= several.passes)
        }
        // It is not who says it first that counts.
        expect(verdictOfSeveral([...first].reverse(), several)).to.equal(verdictOfSeveral(first, several))
      }),
    )
  })
  it('is one verdict with one tester: their own', () => {
    for (const verdict of verdicts.filter(isFinal))
      expect(verdictOfSeveral([verdict], { people: 1, passes: 1 })).to.equal(verdict)
  })
  it('says who said what, and that they do not agree', () => {
    const said = [
      { person: 'Mira', verdict: 'Passed' as const },
      { person: 'Tobin', verdict: 'Failed' as const },
    ]
    expect(disagree(said)).to.equal(true)
    expect(disagree(said.slice(1))).to.equal(false)
    expect(severalWords({ people: 3, passes: 2 }, said)).to.equal(
      '2 of 3 testers must pass it; Mira Passed, Tobin Failed; they do not agree',
    )
    expect(severalProblem({ people: 2, passes: 3 })).to.equal('3 cannot pass where 2 give their verdict.')
    expect(severalProblem({ people: 2, passes: 2 })).to.equal(null)
  })
})
