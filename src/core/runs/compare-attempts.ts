import { plainText } from '#core/lib/plain-text.ts'
import type { DeskAttempt } from './desk-contract.ts'

/** What one attempt says of a step in a row. */
export interface StepSaid {
  readonly verdict: string
  readonly word: string | null
  readonly comment: string
}
/** A step of either attempt; of the other it may not be part. */
export interface StepCompared {
  /** The data row, from 1. */
  readonly row: number
  readonly action: string
  readonly one: StepSaid | null
  readonly other: StepSaid | null
  readonly differs: boolean
}

type Compared = Pick<DeskAttempt, 'steps' | 'rows' | 'marks'>
const rowsOf = ({ rows }: Compared): number => Math.max(1, rows.length)

function saidAt(of: Compared, row: number, step: number | null): StepSaid | null {
  if (step === null || row > rowsOf(of) || !of.steps.some(({ id }) => id === step)) return null
  const mark = of.marks.find((each) => each.row === row && each.step === step)
  return { verdict: mark?.verdict ?? 'Not run', word: mark?.word ?? null, comment: plainText(mark?.comment ?? '') }
}

/**
 * Two attempts at a case step by step and row by row: steps are the same by their identity, those of one version alone stand where they
 * were in it.
 */
export function compareAttempts(one: Compared, other: Compared): StepCompared[] {
  const ids = mergedSteps(
    one.steps.map(({ id }) => id),
    other.steps.map(({ id }) => id),
  )
  const actions = new Map([...other.steps, ...one.steps].map(({ id, action }) => [id, plainText(action)]))
  const rows = Math.max(rowsOf(one), rowsOf(other))
  return Array.from({ length: rows }, (_, at) => at + 1).flatMap((row) =>
    ids.map((id) => {
      const [a, b] = [saidAt(one, row, id), saidAt(other, row, id)]
      return {
        row,
        action: actions.get(id) ?? '',
        one: a,
        other: b,
        differs: a?.verdict !== b?.verdict || a?.word !== b?.word || a?.comment !== b?.comment,
      }
    }),
  )
}

/** Those of the first in their order, each followed by what stands behind it in the second alone. */
function mergedSteps(one: readonly number[], other: readonly number[]): number[] {
  const merged = [...one]
  for (const [at, id] of other.entries()) {
    if (merged.includes(id)) continue
    const before = other
      .slice(0, at)
      .reverse()
      .find((each) => merged.includes(each))
    merged.splice(before === undefined ? 0 : merged.indexOf(before) + 1, 0, id)
  }
  return merged
}
