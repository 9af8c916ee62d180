import { type Said, type Verdict, isFinal, plainly, rollUp } from '#core/lib/verdict.ts'
import type { Policy } from '#core/projects/policy.ts'

/** What was said of one step in one data row. */
export interface Mark extends Readonly<Said> {
  readonly row: number
  readonly step: number
}

/** A verdict for the attempt as a whole; with a reason when it stands against a failed step. */
export interface WholeVerdict extends Readonly<Said> {
  readonly override: string | null
}

/** What is known of one execution: its rows (1…n; one when the case has none), its steps in order, and what was marked. */
export interface Attempt {
  readonly rows: number
  readonly steps: readonly number[]
  readonly marks: readonly Mark[]
  readonly whole: WholeVerdict | null
  /** What its verdict is taken from; open: from the steps. */
  readonly decides?: Policy['decides']
}

/** What an event changed, with what was there before: enough to show it and to undo it. */
export interface AttemptChange {
  readonly marks: readonly { readonly from: Mark | null; readonly to: Mark | null }[]
  readonly whole: { readonly from: WholeVerdict | null; readonly to: WholeVerdict | null } | null
}

export type Outcome =
  | { readonly ok: true; readonly attempt: Attempt; readonly change: AttemptChange }
  | { readonly ok: false; readonly sentence: string }

const markAt = (attempt: Attempt, row: number, step: number): Mark | undefined =>
  attempt.marks.find((mark) => mark.row === row && mark.step === step)

/** Verdicts of one row's steps in their order. */
const rowVerdicts = (attempt: Attempt, row: number): Verdict[] =>
  attempt.steps.map((step) => markAt(attempt, row, step)?.verdict ?? 'Not run')

/** One verdict per data row. */
export function verdictsByRow(attempt: Attempt): Verdict[] {
  return Array.from({ length: attempt.rows }, (_, index) => rollUp(rowVerdicts(attempt, index + 1)) ?? 'Not run')
}

const wasSaid = ({ verdict }: Mark): boolean => verdict !== 'Not run'

/**
 * The roll-up of an attempt: an override stands, else steps of all rows and a whole-item verdict that fills nothing. Where the
 * tester decides, the whole-item verdict alone, and until then In progress.
 */
export function attemptVerdict(attempt: Attempt): Verdict {
  const { whole } = attempt
  if (whole?.override != null) return whole.verdict
  if (attempt.decides === 'tester') return whole?.verdict ?? (attempt.marks.some(wasSaid) ? 'In progress' : 'Not run')
  const parts = attempt.steps.length === 0 ? [] : verdictsByRow(attempt)
  if (whole && (!fills(whole.verdict) || parts.length === 0)) return rollUp([...parts, whole.verdict]) ?? 'Not run'
  return rollUp(parts) ?? 'Not run'
}

/** Final: the roll-up is one of the five and no verdict in it is still open. */
export const attemptIsFinal = (attempt: Attempt): boolean =>
  isFinal(attemptVerdict(attempt)) &&
  attempt.whole?.final !== false &&
  (attempt.decides === 'tester' || attempt.marks.every((mark) => mark.final || !wasSaid(mark)))

/** The project's own word the attempt's verdict is shown by: that of the whole, else the one that all of its deciding steps share. */
export function attemptWord(attempt: Attempt): string | null {
  const verdict = attemptVerdict(attempt)
  if (attempt.whole?.verdict === verdict) return attempt.whole.word
  if (attempt.decides === 'tester') return null
  const words = new Set(attempt.marks.filter((mark) => mark.verdict === verdict).map(({ word }) => word))
  const [only = null] = words
  return words.size === 1 ? only : null
}

const fills = (verdict: Verdict): boolean => verdict === 'Passed' || verdict === 'Skipped'

/** Gives a step of a row its verdict; `Not run` takes it back. */
export function markStep(attempt: Attempt, to: Mark): Outcome {
  if (!attempt.steps.includes(to.step))
    return { ok: false, sentence: 'This step is not part of the version being executed.' }
  if (to.row < 1 || to.row > attempt.rows)
    return { ok: false, sentence: `There is no data row ${to.row}; this attempt has ${attempt.rows}.` }
  return apply(attempt, {
    marks: [{ from: markAt(attempt, to.row, to.step) ?? null, to: to.verdict === 'Not run' ? null : to }],
    whole: null,
  })
}

/**
 * A verdict for all of it. Passed and Skipped fill what is Not run and, where the steps decide, are refused where a step failed,
 * unless a reason overrides.
 */
export function markWhole(attempt: Attempt, said: Said, reason: string | null): Outcome {
  const { verdict } = said
  const against = attempt.decides !== 'tester' && attempt.marks.some((mark) => mark.verdict === 'Failed')
  const override = reason?.trim() ? reason.trim() : null
  if (fills(verdict) && against && override === null)
    return {
      ok: false,
      sentence: `A step failed, so the whole cannot be ${said.word ?? verdict}. Change that step, or give a reason to override it.`,
    }
  const marks = fills(verdict)
    ? unmarked(attempt).map((at) => ({ from: null, to: { ...at, ...plainly(verdict) } }))
    : []
  const to = { ...said, override: fills(verdict) && against ? override : null }
  return apply(attempt, { marks, whole: { from: attempt.whole, to } })
}

/** Takes a whole-item verdict (an override above all) back; the steps keep theirs. */
export const liftWhole = (attempt: Attempt): Outcome =>
  apply(attempt, { marks: [], whole: { from: attempt.whole, to: null } })

function unmarked(attempt: Attempt): { row: number; step: number }[] {
  const all = Array.from({ length: attempt.rows }, (_, index) =>
    attempt.steps.map((step) => ({ row: index + 1, step })),
  )
  return all.flat().filter((at) => (markAt(attempt, at.row, at.step)?.verdict ?? 'Not run') === 'Not run')
}

/** What was said of one data row belongs to another, and the other way round; twice is as before. */
export function swapRows(attempt: Attempt, one: number, other: number): Outcome {
  const beyond = [one, other].find((row) => !Number.isInteger(row) || row < 1 || row > attempt.rows)
  if (beyond !== undefined)
    return { ok: false, sentence: `There is no data row ${beyond}; this attempt has ${attempt.rows}.` }
  if (one === other) return { ok: false, sentence: 'That is the row it stands in.' }
  const moved = (step: number, from: number, to: number) => {
    const [before, after] = [markAt(attempt, to, step) ?? null, markAt(attempt, from, step)]
    return { from: before, to: after ? { ...after, row: to } : null }
  }
  const marks = attempt.steps.flatMap((step) => [moved(step, one, other), moved(step, other, one)])
  return apply(attempt, { marks: marks.filter(({ from, to }) => from !== null || to !== null), whole: null })
}

/** The change that takes a change back. */
export function invert(change: AttemptChange): AttemptChange {
  return {
    marks: change.marks.map(({ from, to }) => ({ from: to, to: from })),
    whole: change.whole && { from: change.whole.to, to: change.whole.from },
  }
}

/** Applies a change; the attempt given stays as it was. */
export function apply(attempt: Attempt, change: AttemptChange): Outcome {
  const touched = new Set(change.marks.map(({ from, to }) => place(to ?? from)))
  const kept = attempt.marks.filter((mark) => !touched.has(place(mark)))
  const added = change.marks.flatMap(({ to }) => (to ? [to] : []))
  return {
    ok: true,
    change,
    attempt: { ...attempt, marks: [...kept, ...added], whole: change.whole ? change.whole.to : attempt.whole },
  }
}

const place = (mark: { row: number; step: number } | null): string => (mark ? `${mark.row}:${mark.step}` : '')
