import { type Attempt, attemptIsFinal, attemptVerdict, attemptWord } from '#core/runs/attempt.ts'
import type { DeskAttempt } from '#core/runs/desk-contract.ts'
import { plainly } from '#core/lib/verdict.ts'

// An attempt as the desk shows it, and as the rules know it.

export const asCore = (of: DeskAttempt): Attempt => ({
  rows: Math.max(1, of.rows.length),
  steps: of.steps.map(({ id }) => id),
  marks: of.marks,
  whole: of.whole && { ...of.whole, override: of.override },
  decides: of.policy.decides,
})

type ShownMark = DeskAttempt['marks'][number]
const isAt = (row: number, step: number) => (mark: ShownMark) => mark.row === row && mark.step === step

/** The attempt as it is shown after something was said of it; comments stay with their steps. */
export const afterSaying = (own: DeskAttempt, to: Attempt, at: number): DeskAttempt => ({
  ...own,
  marks: to.marks.map(({ row, step, verdict, word, final }) => ({
    row,
    step,
    verdict,
    word,
    final,
    comment: own.marks.find(isAt(row, step))?.comment ?? '',
    at,
  })),
  whole: to.whole && { verdict: to.whole.verdict, word: to.whole.word, final: to.whole.final },
  override: to.whole?.override ?? null,
  verdict: attemptVerdict(to),
  word: attemptWord(to),
  final: attemptIsFinal(to),
  canUndo: true,
})

/** The attempt with what happened at a step; a step nothing was said of yet stays without a verdict. */
export function withComment(
  own: DeskAttempt,
  row: number,
  step: number,
  of: { text: string; at: number },
): DeskAttempt {
  const known = own.marks.some(isAt(row, step))
  return {
    ...own,
    marks: known
      ? own.marks.map((mark) => (isAt(row, step)(mark) ? { ...mark, comment: of.text } : mark))
      : [...own.marks, { row, step, ...plainly('Not run'), comment: of.text, at: of.at }],
  }
}

export interface Place {
  /** The data row, from 1. */
  readonly row: number
  /** The step, from 0. */
  readonly step: number
}
type Extent =
  Pick<DeskAttempt, 'steps' | 'rows'> | { readonly steps: readonly unknown[]; readonly rows: readonly unknown[] }
const rowsOf = (of: Extent): number => Math.max(1, of.rows.length)

/** Where the desk opens: the first step of the first row of which nothing was said. */
export function firstOpen(attempt: DeskAttempt | null): Place {
  const isOpen = ({ id }: { id: number }) =>
    !attempt?.marks.some((mark) => isAt(1, id)(mark) && mark.verdict !== 'Not run')
  return { row: 1, step: Math.max(0, attempt?.steps.findIndex(isOpen) ?? 0) }
}

/** A place within the attempt, the nearest to the one that is asked for. */
export const placeIn = (of: Extent, to: Place): Place => ({
  row: Math.max(1, Math.min(rowsOf(of), to.row)),
  step: Math.max(0, Math.min(of.steps.length - 1, to.step)),
})

/** The step after this, or the first of the next row; `null` after the last of all. */
export function placeAfter(of: Extent, { row, step }: Place): Place | null {
  if (step + 1 < of.steps.length) return { row, step: step + 1 }
  return row < rowsOf(of) ? { row: row + 1, step: 0 } : null
}
