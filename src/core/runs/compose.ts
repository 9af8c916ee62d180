import type { Verdict } from '#core/lib/verdict.ts'
import type { StaleReason } from './freshness.ts'

// Why a case is executed again in an environment: what is known of it, judged on the build of the run that is made.

export const runReasons = ['failed', 'stuck', 'basis changed', 'too old', 'never tried'] as const
export type RunReason = (typeof runReasons)[number]

/** What is known of a case in an environment. */
export interface Known {
  /** Of the newest result that stands; `Not run` where none does. */
  readonly verdict: Verdict
  /** Why that result is no longer current. */
  readonly stale: readonly StaleReason[]
  /** Offered builds after its own that touch the case, as far as is known. */
  readonly laterBuilds: number
  /** Of these, builds somebody said of that they touch it. */
  readonly touchedBy: number
}

/** So many later builds make a result old, where nobody said what they touch. */
const oldAfterBuilds = 2

const basis: readonly StaleReason[] = ['case changed', 'requirement changed', 'defect fixed since', 'doubted']

/** The reasons that hold, in their order; none where the result can be believed. Skipped is a decision not to try. */
export function reasonsFor({ verdict, stale, laterBuilds, touchedBy }: Known): RunReason[] {
  if (verdict === 'Not run' || verdict === 'In progress' || verdict === 'Skipped') return ['never tried']
  const holds: Readonly<Record<Exclude<RunReason, 'never tried'>, boolean>> = {
    failed: verdict === 'Failed',
    stuck: verdict === 'Blocked' || verdict === 'Inconclusive',
    'basis changed': touchedBy > 0 || stale.some((reason) => basis.includes(reason)),
    'too old': stale.includes('too old') || laterBuilds >= oldAfterBuilds,
  }
  return runReasons.filter((reason) => reason !== 'never tried' && holds[reason])
}

/** Reasons as bits, the first as the lowest: a hundred thousand are counted at each key. */
export const bitsOf = (reasons: readonly RunReason[]): number =>
  reasons.reduce((bits, reason) => bits | (1 << runReasons.indexOf(reason)), 0)

export interface Composed {
  /** Places of those that one of the chosen reasons holds for, in their order. */
  readonly at: readonly number[]
  /** How many there are by each reason, chosen or not. */
  readonly counts: Readonly<Record<RunReason, number>>
  /** Of those chosen, what one of the reasons holds for, and what several do. */
  readonly one: number
  readonly several: number
}

/**
 * What is executed again for the chosen reasons, which add up.
 * @param bits the reasons of each, by `bitsOf`
 * @param among places that are looked at; all where none are given
 */
export function compose(
  bits: ArrayLike<number>,
  chosen: readonly RunReason[],
  among: ArrayLike<number> | null = null,
): Composed {
  const wanted = bitsOf(chosen)
  const byBits = new Uint32Array(1 << runReasons.length)
  const at: number[] = []
  let one = 0
  const looked = among?.length ?? bits.length
  for (let n = 0; n < looked; n++) {
    const place = among ? (among[n] ?? 0) : n
    const own = bits[place] ?? 0
    byBits[own] = (byBits[own] ?? 0) + 1
    const held = own & wanted
    if (held === 0) continue
    at.push(place)
    if ((held & (held - 1)) === 0) one++
  }
  const countOf = (reason: RunReason): number =>
    byBits.reduce((sum, n, own) => ((own & bitsOf([reason])) === 0 ? sum : sum + n), 0)
  const counts = Object.fromEntries(runReasons.map((reason) => [reason, countOf(reason)]))
  return { at, counts: counts as Record<RunReason, number>, one, several: at.length - one }
}

/** What is told of a result beside its reasons. */
export interface ToldOf extends Known {
  readonly days: number
  readonly reasons: readonly RunReason[]
  /** Keys of the defects linked to its attempt: open ones, and those that are repaired or closed. */
  readonly open: readonly string[]
  readonly repaired: readonly string[]
  /** Keys of its requirements that were reworded since. */
  readonly reworded: readonly string[]
}

/** Why it is there, in the words of a row: `stuck: DF-22`, `RQ-11 changed · case changed`. */
export const whyAgain = (told: ToldOf): string => told.reasons.flatMap((reason) => words[reason](told)).join(' · ')

const waits = ({ open }: ToldOf): string => (open.length > 0 ? `: ${open.join(', ')}` : '')
const words: Readonly<Record<RunReason, (told: ToldOf) => string[]>> = {
  failed: (told) => [`failed${waits(told)}`],
  stuck: (told) => [told.open.length === 0 && told.repaired.length > 0 ? 'stuck, freed since' : `stuck${waits(told)}`],
  'basis changed': ({ stale, reworded, repaired, touchedBy }) => [
    ...(stale.includes('requirement changed') ? [`${reworded.join(', ') || 'requirement'} changed`] : []),
    ...(stale.includes('case changed') ? ['case changed'] : []),
    ...(stale.includes('defect fixed since') ? [`${repaired.join(', ') || 'defect'} fixed`] : []),
    ...(stale.includes('doubted') ? ['doubted'] : []),
    ...(touchedBy > 0 ? ['touched by a build'] : []),
  ],
  'too old': ({ stale, days, laterBuilds }) => [
    ...(stale.includes('too old') ? [`${days} days old`] : []),
    ...(laterBuilds >= oldAfterBuilds ? [`${laterBuilds} builds since`] : []),
  ],
  'never tried': () => ['never tried'],
}
