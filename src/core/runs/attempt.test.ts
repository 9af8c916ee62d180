import { expect } from 'chai'
import fc from 'fast-check'
import {
  apply,
  type Attempt,
  attemptIsFinal,
  attemptVerdict,
  attemptWord,
  invert,
  liftWhole,
  type Mark,
  markStep,
  markWhole,
  type Outcome,
  verdictsByRow,
} from './attempt.ts'
import { finalVerdicts, inWord, plainly, rollUp, verdicts } from '#core/lib/verdict.ts'

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
  const passed = done(markWhole(begun, plainly('Passed'), null))
  expect(passed.marks).to.have.length(6)
  expect(passed.marks.filter(({ verdict }) => verdict === 'Skipped')).to.have.length(1)
  expect(attemptVerdict(passed)).to.equal('Passed')
  const blocked = done(markWhole(begun, plainly('Blocked'), null))
  expect([blocked.marks.length, attemptVerdict(blocked)]).to.deep.equal([1, 'Blocked'])
})
it('refuses a whole Passed over a failed step, unless a reason overrides it until it is lifted', () => {
  const failed = done(markStep(fresh, mark(1, 12, 'Failed')))
  expect(markWhole(failed, plainly('Passed'), null)).to.have.property('ok', false)
  expect(markWhole(failed, plainly('Passed'), '  ')).to.have.property('ok', false)
  const overridden = done(markWhole(failed, plainly('Passed'), 'the printer was off'))
  expect(attemptVerdict(overridden)).to.equal('Passed')
  expect(overridden.marks.find(({ step, row }) => step === 12 && row === 1)?.verdict).to.equal('Failed')
  expect(attemptVerdict(done(liftWhole(overridden)))).to.equal('Failed')
})
it('takes the whole verdict of a case without steps', () =>
  expect(attemptVerdict(done(markWhole({ ...fresh, steps: [] }, plainly('Inconclusive'), null)))).to.equal(
    'Inconclusive',
  ))
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
          markWhole(attempt, plainly(verdict), reason),
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

const kinds = [
  { word: 'Known fault', countsAs: 'Failed', final: true },
  { word: 'With remarks', countsAs: 'Passed', final: true },
  { word: 'To be looked at', countsAs: 'Inconclusive', final: false },
] as const
const anySaid = fc.oneof(fc.constantFrom(...finalVerdicts).map(plainly), fc.constantFrom(...kinds).map(inWord))

describe('verdicts of a project’s own under any policy', () => {
  const anyAct = fc.oneof(
    fc.record({ row: fc.integer({ min: 1, max: 2 }), step: fc.constantFrom(11, 12, 13), said: anySaid }).map(
      ({ said, ...at }) =>
        (attempt: Attempt) =>
          markStep(attempt, { ...at, ...said }),
    ),
    fc.record({ said: anySaid, reason: fc.constantFrom(null, 'known') }).map(
      ({ said, reason }) =>
        (attempt: Attempt) =>
          markWhole(attempt, said, reason),
    ),
    fc.constant(liftWhole),
  )
  const histories = fc.tuple(fc.constantFrom('steps', 'tester'), fc.array(anyAct, { maxLength: 12 }))
  const after = (decides: 'steps' | 'tester', acts: readonly ((attempt: Attempt) => Outcome)[]): Attempt =>
    acts.reduce<Attempt>(
      (attempt, act) => {
        const outcome = act(attempt)
        return outcome.ok ? outcome.attempt : attempt
      },
      { ...fresh, decides },
    )
  const marksOf = ({ marks, steps, rows }: Attempt) =>
    Array.from({ length: rows }, (_, row) =>
      steps.map((step) => marks.find((each) => each.row === row + 1 && each.step === step)?.verdict ?? 'Not run'),
    )

  it('roll up as the policy says, told in the plainest way', () => {
    fc.assert(
      fc.property(histories, ([decides, acts]) => {
        const attempt = after(decides, acts)
        const { whole } = attempt
        const marks = marksOf(attempt)
        const begun = marks.flat().some((verdict) => verdict !== 'Not run')
        const ofSteps = rollUp(marks.map((row) => rollUp(row)!))!
        const filled = whole?.verdict === 'Passed' || whole?.verdict === 'Skipped'
        const expected =
          whole?.override != null
            ? whole.verdict
            : decides === 'tester'
              ? (whole?.verdict ?? (begun ? 'In progress' : 'Not run'))
              : whole && !filled
                ? rollUp([ofSteps, whole.verdict])
                : ofSteps
        expect(attemptVerdict(attempt)).to.equal(expected)
      }),
    )
  })
  it('are never final while one that counts is not, and a tester who decides ends it with one word', () => {
    fc.assert(
      fc.property(histories, ([decides, acts]) => {
        const attempt = after(decides, acts)
        const open = attempt.marks.some(({ final, verdict }) => !final && verdict !== 'Not run')
        if (attempt.whole?.final === false) expect(attemptIsFinal(attempt)).to.equal(false)
        if (decides === 'steps' && open) expect(attemptIsFinal(attempt)).to.equal(false)
        if (decides === 'tester') expect(attemptIsFinal(attempt)).to.equal(attempt.whole?.final === true)
      }),
    )
  })
  it('keep the word they were given in, and give it to the whole where it alone decided', () => {
    const failed = done(markStep(fresh, { row: 1, step: 11, ...inWord(kinds[0]) }))
    expect([attemptVerdict(failed), attemptWord(failed)]).to.deep.equal(['Failed', 'Known fault'])
    const plainToo = done(markStep(failed, mark(1, 12, 'Failed')))
    expect(attemptWord(plainToo)).to.equal(null)
    const whole = done(markWhole(fresh, inWord(kinds[1]), null))
    expect([attemptVerdict(whole), attemptWord(whole), attemptIsFinal(whole)]).to.deep.equal([
      'Passed',
      'With remarks',
      true,
    ])
    const open = done(markWhole(fresh, inWord(kinds[2]), null))
    expect([attemptVerdict(open), attemptWord(open), attemptIsFinal(open)]).to.deep.equal([
      'In progress',
      'To be looked at',
      false,
    ])
  })
  it('let a tester who decides pass an item with a failed step, and ask for no reason', () => {
    const failed = done(markStep({ ...fresh, decides: 'tester' }, mark(1, 12, 'Failed')))
    expect(attemptVerdict(failed)).to.equal('In progress')
    const passed = done(markWhole(failed, plainly('Passed'), null))
    expect([attemptVerdict(passed), passed.whole?.override]).to.deep.equal(['Passed', null])
  })
})
