import { expect } from 'chai'
import { markStep } from '#core/runs/attempt.ts'
import type { DeskAttempt } from '#core/runs/desk-contract.ts'
import { plainly } from '#core/lib/verdict.ts'
import { usualPolicy } from '#core/projects/policy.ts'
import { afterSaying, asCore, firstOpen, placeAfter, placeIn, withComment } from './desk-attempt.ts'

const step = (id: number) => ({ id, action: `Step ${id}`, expected: '', data: '', from: '' })
const mark = (row: number, of: number, comment = '') => ({ row, step: of, ...plainly('Passed'), comment, at: 1 })
const attempt = {
  id: 1,
  rows: [{ card: '4000' }, { card: '4111' }],
  steps: [step(11), step(12), step(13)],
  marks: [mark(1, 11, 'slow')],
  whole: null,
  override: null,
  policy: usualPolicy,
  verdict: 'In progress',
  canUndo: false,
} as unknown as DeskAttempt

describe('an attempt on the desk', () => {
  it('is told to the rules with its steps, rows and marks', () => {
    expect(asCore(attempt)).to.deep.include({ rows: 2, steps: [11, 12, 13], whole: null })
    expect(asCore({ ...attempt, rows: [] }).rows).to.equal(1)
    expect(asCore({ ...attempt, whole: plainly('Passed'), override: 'seen by Mira' }).whole).to.deep.equal({
      ...plainly('Passed'),
      override: 'seen by Mira',
    })
  })
  it('shows at once what was said, with the roll-up and the comments it had', () => {
    const outcome = markStep(asCore(attempt), { row: 1, step: 12, ...plainly('Failed') })
    if (!outcome.ok) throw new Error(outcome.sentence)
    const shown = afterSaying(attempt, outcome.attempt, 99)
    expect(shown).to.deep.include({ verdict: 'Failed', canUndo: true, whole: null })
    expect(shown.marks.map((each) => [each.step, each.verdict, each.comment, each.at])).to.deep.equal([
      [11, 'Passed', 'slow', 99],
      [12, 'Failed', '', 99],
    ])
  })
  it('keeps what happened with its step, which stays without a verdict where it had none', () => {
    expect(withComment(attempt, 1, 11, { text: 'fast', at: 2 }).marks[0]).to.deep.include({
      verdict: 'Passed',
      comment: 'fast',
    })
    expect(withComment(attempt, 2, 12, { text: 'odd', at: 2 }).marks.at(-1)).to.deep.include({
      row: 2,
      step: 12,
      verdict: 'Not run',
      comment: 'odd',
    })
  })
})

describe('the place at the desk', () => {
  it('begins at the first step nothing was said of', () => {
    expect(firstOpen(attempt)).to.deep.equal({ row: 1, step: 1 })
    expect(firstOpen(null)).to.deep.equal({ row: 1, step: 0 })
    const done = { ...attempt, marks: [mark(1, 11), mark(1, 12), mark(1, 13)] } as DeskAttempt
    expect(firstOpen(done)).to.deep.equal({ row: 1, step: 0 })
  })
  it('stays within the attempt', () => {
    expect(placeIn(attempt, { row: 9, step: 9 })).to.deep.equal({ row: 2, step: 2 })
    expect(placeIn(attempt, { row: 0, step: -1 })).to.deep.equal({ row: 1, step: 0 })
    expect(placeIn({ steps: [], rows: [] }, { row: 1, step: 3 })).to.deep.equal({ row: 1, step: 0 })
  })
  it('goes on to the next step, then to the next row, and ends', () => {
    expect(placeAfter(attempt, { row: 1, step: 0 })).to.deep.equal({ row: 1, step: 1 })
    expect(placeAfter(attempt, { row: 1, step: 2 })).to.deep.equal({ row: 2, step: 0 })
    expect(placeAfter(attempt, { row: 2, step: 2 })).to.equal(null)
  })
})
