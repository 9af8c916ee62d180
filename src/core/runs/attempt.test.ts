import { expect } from 'chai'
import fc from 'fast-check'
import {
  apply,
  type Attempt,
  attemptIsFinal,
  attemptVerdict,
  invert,
  liftWhole,
  type Mark,
  markStep,
  markWhole,
  type Outcome,
  verdictsByRow,
} from './attempt.ts'
import { finalVerdicts, verdicts } from '#core/lib/verdict.ts'

const fresh: Attempt = { rows: 2, steps: [11, 12, 13], marks: [], whole: null }
const mark = (row: number, step: number, verdict: Mark['verdict']): Mark => ({
  row,
  step,
  verdict,
  word: null,
  final: true,
})
const done = (outcome: Outcome) => {
  if (!outcome.ok) throw new Error(outcome.sentence)
  return outcome.attempt
}

it('is final at once with a first Failed step, though later steps are not run', () => {
  const failed = done(markStep(fresh, mark(1, 11, 'Failed')))
  expect([attemptVerdict(failed), attemptIsFinal(failed)]).to.deep.equal(['Failed', true])
})
it('is not final while a row is still to come', () => {
  const half = [11, 12, 13].reduce((attempt, step) => done(markStep(attempt, mark(1, step, 'Passed'))), fresh)
  expect([attemptVerdict(half), attemptIsFinal(half)]).to.deep.equal(['In progress', false])
  expect(verdictsByRow(half)).to.deep.equal(['Passed', 'Not run'])
})
it('is not final while one verdict is not', () => {
  const open = done(markStep(fresh, { ...mark(1, 11, 'Failed'), final: false }))
  expect(attemptIsFinal(open)).to.equal(false)
})
it('fills what is not run when the whole is Passed, in all rows, and nothing when it is Blocked', () => {
  const begun = done(markStep(fresh, mark(1, 11, 'Skipped')))
  const passed = done(markWhole(begun, 'Passed', null))
  expect(passed.marks).to.have.length(6)
  expect(passed.marks.filter(({ verdict }) => verdict === 'Skipped')).to.have.length(1)
  expect(attemptVerdict(passed)).to.equal('Passed')
  const blocked = done(markWhole(begun, 'Blocked', null))
  expect([blocked.marks.length, attemptVerdict(blocked)]).to.deep.equal([1, 'Blocked'])
})
it('refuses a whole Passed over a failed step, unless a reason overrides it until it is lifted', () => {
  const failed = done(markStep(fresh, mark(1, 12, 'Failed')))
  expect(markWhole(failed, 'Passed', null)).to.have.property('ok', false)
  expect(markWhole(failed, 'Passed', '  ')).to.have.property('ok', false)
  const overridden = done(markWhole(failed, 'Passed', 'the printer was off'))
  expect(attemptVerdict(overridden)).to.equal('Passed')
  expect(overridden.marks.find(({ step, row }) => step === 12 && row === 1)?.verdict).to.equal('Failed')
  expect(attemptVerdict(done(liftWhole(overridden)))).to.equal('Failed')
})
it('takes the whole verdict of a case without steps', () =>
  expect(attemptVerdict(done(markWhole({ ...fresh, steps: [] }, 'Inconclusive', null)))).to.equal('Inconclusive'))
it('refuses a step or a row that is not there', () => {
  expect(markStep(fresh, mark(1, 99, 'Passed'))).to.have.property('ok', false)
  expect(markStep(fresh, mark(3, 11, 'Passed'))).to.have.property('ok', false)
})
it('undoes any change by its inverse, in any history', () => {
  const act = fc.oneof(
    fc
      .record({
        row: fc.integer({ min: 1, max: 2 }),
        step: fc.constantFrom(11, 12, 13),
        verdict: fc.constantFrom(...verdicts),
      })
      .map((to) => (attempt: Attempt) => markStep(attempt, mark(to.row, to.step, to.verdict))),
    fc.record({ verdict: fc.constantFrom(...finalVerdicts), reason: fc.constantFrom(null, 'known') }).map(
      ({ verdict, reason }) =>
        (attempt: Attempt) =>
          markWhole(attempt, verdict, reason),
    ),
  )
  const sorted = (attempt: Attempt) => ({
    ...attempt,
    marks: [...attempt.marks].sort((a, b) => a.row - b.row || a.step - b.step),
  })
  fc.assert(
    fc.property(fc.array(act, { maxLength: 10 }), (acts) => {
      let attempt = fresh
      for (const one of acts) {
        const outcome = one(attempt)
        if (!outcome.ok) continue
        expect(sorted(done(apply(outcome.attempt, invert(outcome.change))))).to.deep.equal(sorted(attempt))
        attempt = outcome.attempt
      }
    }),
  )
})
