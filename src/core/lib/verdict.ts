import { z } from 'zod'

/** The five that count. */
export const finalVerdicts = ['Passed', 'Failed', 'Blocked', 'Skipped', 'Inconclusive'] as const
export const verdicts = [...finalVerdicts, 'Not run', 'In progress'] as const
export const verdict = z.enum(verdicts)
export const finalVerdict = z.enum(finalVerdicts)
export type Verdict = z.infer<typeof verdict>
export type FinalVerdict = z.infer<typeof finalVerdict>

export const isFinal = (of: Verdict): of is FinalVerdict => of !== 'Not run' && of !== 'In progress'

/** Drawn beside the mark of what an own verdict counts as, in one of the tints. */
export const signs = ['dot', 'bar', 'ring', 'corner', 'cross', 'wave'] as const
export const tints = ['grey', 'blue', 'violet', 'amber', 'teal', 'rose'] as const
export type Sign = (typeof signs)[number]
export type Tint = (typeof tints)[number]

/** A project's own verdict: its word, what it counts as, whether it ends the matter, and of what it may be said. */
export const verdictKind = z.object({
  word: z.string().trim().min(1, 'may not be empty').max(40),
  countsAs: finalVerdict,
  final: z.boolean(),
  forItems: z.boolean(),
  forSteps: z.boolean(),
  sign: z.enum(signs),
  tint: z.enum(tints),
})
export type VerdictKind = z.infer<typeof verdictKind>
/** As a project has it. Once it is retired nobody gives it any more, and what was said with it stays. */
export const ownVerdict = verdictKind.extend({ id: z.number(), retiredAt: z.number().nullable() })
export type OwnVerdict = z.infer<typeof ownVerdict>

/** What a custom verdict enters a roll-up as: its own meaning, or In progress while it is not final. */
export const entersAs = (kind: Pick<VerdictKind, 'countsAs' | 'final'>): Verdict =>
  kind.final ? kind.countsAs : 'In progress'

/** What was said of a step or an item: a verdict, in the project's own word for it where it has one. */
export const said = z.object({ verdict, word: z.string().max(40).nullable(), final: z.boolean() })
export type Said = z.infer<typeof said>

/** A verdict said in none of the project's own words. In progress is said of what goes on, and ends nothing. */
export const plainly = (of: Verdict): Said => ({ verdict: of, word: null, final: of !== 'In progress' })

/** A verdict said in the project's own word. */
export const inWord = (kind: Pick<VerdictKind, 'word' | 'countsAs' | 'final'>): Said => ({
  verdict: entersAs(kind),
  word: kind.word,
  final: kind.final,
})

/** Can it still be said at an instant, in milliseconds UTC? */
const isSaidAt = ({ retiredAt }: Pick<OwnVerdict, 'retiredAt'>, at: number): boolean =>
  retiredAt === null || at < retiredAt

/** What somebody says of a step or an item at an instant, as the project knows the word; `null` when it is none of its words for that. */
export function saidOf(
  kinds: readonly OwnVerdict[],
  of: { readonly verdict: Verdict; readonly word: string | null; readonly at: number },
  about: 'forSteps' | 'forItems',
): Said | null {
  if (of.word === null) return plainly(of.verdict)
  const kind = kinds.find(
    (each) => isSaidAt(each, of.at) && each[about] && each.word.toLowerCase() === of.word?.toLowerCase(),
  )
  return kind ? inWord(kind) : null
}

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
