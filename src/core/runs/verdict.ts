import { z } from 'zod'

/** The five that count. */
export const finalVerdicts = ['Passed', 'Failed', 'Blocked', 'Skipped', 'Inconclusive'] as const
export const verdicts = [...finalVerdicts, 'Not run', 'In progress'] as const
export const verdict = z.enum(verdicts)
export const finalVerdict = z.enum(finalVerdicts)
export type Verdict = z.infer<typeof verdict>
export type FinalVerdict = z.infer<typeof finalVerdict>

export const isFinal = (of: Verdict): of is FinalVerdict => of !== 'Not run' && of !== 'In progress'

/** A project's own verdict: its word, what it counts as, and whether it ends the matter. */
export interface VerdictKind {
  readonly word: string
  readonly countsAs: FinalVerdict
  readonly final: boolean
}

/** What a custom verdict enters a roll-up as: its own meaning, or In progress while it is not final. */
export const entersAs = (kind: VerdictKind): Verdict => (kind.final ? kind.countsAs : 'In progress')

/**
 * Rolls verdicts up, steps to row to attempt: any Failed, else any Blocked, else any Inconclusive; while
 * something is still to come Not run (when all are) or In progress; else Skipped when all are; else Passed.
 * `null` when there is nothing to roll up.
 */
export function rollUp(parts: Iterable<Verdict>): Verdict | null {
  const seen = new Set(parts)
  if (seen.size === 0) return null
  for (const worst of ['Failed', 'Blocked', 'Inconclusive'] as const) if (seen.has(worst)) return worst
  if (seen.has('Not run') || seen.has('In progress'))
    return seen.size === 1 && seen.has('Not run') ? 'Not run' : 'In progress'
  return seen.size === 1 && seen.has('Skipped') ? 'Skipped' : 'Passed'
}

/** The same for items to run and slots to requirement, where Skipped counts as Not run. */
export function rollUpSlots(slots: Iterable<Verdict>): Verdict | null {
  return rollUp(Array.from(slots, (slot) => (slot === 'Skipped' ? 'Not run' : slot)))
}
