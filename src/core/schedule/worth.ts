import type { StaleReason } from '#core/runs/freshness.ts'
import type { Verdict } from '#core/lib/verdict.ts'
import type { WorthWeights } from '#core/projects/weights.ts'

/** What is known of a case in an environment before it is executed again. */
export interface Learnable {
  /** Of its last 20 final attempts there. */
  readonly fails: number
  readonly n: number
  readonly changed: boolean
  readonly openDefect: boolean
  readonly retest: boolean
  /** Of the standing result; 0 where it was never executed. */
  readonly confidence: number
}

/** One thing that makes it likelier to learn something: it leaves that part of the chance of learning nothing. */
export interface Term {
  readonly of: 'history' | 'changed' | 'open defect' | 'retest' | 'trust'
  readonly leaves: number
}

/** The prior of the history weighs as much as so many attempts. */
const prior = 2
/** So many attempts are looked back at. */
export const lookBack = 20

/**
 * The chance that executing it teaches something, 0…1: one less the product of what its terms leave.
 * @param rate how often attempts of the project fail
 */
export function chanceToLearn(
  { fails, n, changed, openDefect, retest, confidence }: Learnable,
  rate: number,
  weights: WorthWeights,
): { readonly chance: number; readonly terms: readonly Term[] } {
  const terms: Term[] = [
    { of: 'history', leaves: 1 - (fails + prior * rate) / (n + prior) },
    { of: 'changed', leaves: changed ? 1 - weights.changed : 1 },
    { of: 'open defect', leaves: openDefect ? 1 - weights.openDefect : 1 },
    { of: 'retest', leaves: retest ? 1 - weights.retest : 1 },
    { of: 'trust', leaves: 1 - weights.doubt * (1 - confidence) },
  ]
  return { chance: 1 - terms.reduce((product, { leaves }) => product * leaves, 1), terms }
}

/**
 * What answering each place of each case is worth, if it were certain to teach something: the risk of a requirement is split
 * evenly over all places of the cases that prove it, and the part that no case of its drafting answers belongs to none; a case
 * adds what its importance is worth, split evenly over its own places.
 * @returns case → worth of each of its places
 */
export function sharesOf(of: {
  readonly requirements: readonly {
    readonly risk: number
    readonly cases: readonly number[]
    /** The part of its drafting targets that cases answer; 1 where it has no model. */
    readonly answered: number
  }[]
  /** Case → its places, and what it adds by itself. */
  readonly cases: ReadonlyMap<number, { readonly slots: number; readonly adds: number }>
}): ReadonlyMap<number, number> {
  const worth = new Map([...of.cases].map(([id, { slots, adds }]) => [id, slots === 0 ? 0 : adds / slots]))
  for (const { risk, cases, answered } of of.requirements) {
    const places = cases.reduce((sum, id) => sum + (of.cases.get(id)?.slots ?? 0), 0)
    if (places === 0) continue
    for (const id of new Set(cases))
      if ((of.cases.get(id)?.slots ?? 0) > 0) worth.set(id, worth.get(id)! + (risk * answered) / places)
  }
  return worth
}

/** What a sentence about the worth of an item is made of. */
export interface Said extends Learnable {
  readonly verdict: Verdict
  readonly reasons: readonly StaleReason[]
  /** The build it stands on; `null` where nothing does. */
  readonly build: string | null
  /** The highest of its requirements; `null` where it proves none. */
  readonly risk: number | null
}

/** From here on a risk is worth a word. */
const tellsRisk = 15

/** Why it is worth what it is, the strongest first, in a few words. */
export function worthWords(of: Said): string {
  const words = [
    of.retest && 'a repair to try',
    of.verdict === 'Failed' && !of.retest && of.build !== null && `failed on ${of.build}`,
    of.fails > 1 && !(of.verdict === 'Failed') && `failed ${of.fails} of ${of.n} times`,
    of.verdict === 'Blocked' && 'blocked before',
    of.reasons.includes('requirement changed') && 'requirement changed',
    of.reasons.includes('case changed') && 'case changed',
    of.build === null && 'never executed',
    of.reasons.includes('doubted') && 'doubted',
    of.verdict !== 'Failed' && of.build !== null && of.reasons.includes('older build') && `not since ${of.build}`,
    of.reasons.includes('too old') && 'long ago',
    of.openDefect && !of.retest && 'open defect beside it',
  ].filter((each) => each !== false)
  const risk = of.risk !== null && of.risk >= tellsRisk ? [`risk ${of.risk}`] : []
  const told = [...words.slice(0, risk.length > 0 ? 1 : 2), ...risk]
  return told.length > 0 ? told.join(', ') : 'current'
}

/** An item with the place it answers, the chance that it teaches something, and what it takes. */
export interface Weighed {
  readonly key: string
  readonly minutes: number
  /** Several items may answer one place; it counts once, by whichever chosen one is likeliest to teach something. */
  readonly place: string
  /** What the place is worth if it is certain. */
  readonly share: number
  readonly chance: number
}

/**
 * Items as what can be chosen, where a place counts once: the worth of a place is cut into levels, and an item covers the levels up
 * to its own chance, so that what a choice covers is worth the greatest chance among it times the share.
 */
export function asChoice(items: readonly Weighed[]): {
  readonly items: readonly { readonly key: string; readonly minutes: number; readonly covers: readonly string[] }[]
  readonly worth: Readonly<Record<string, number>>
} {
  const chances = new Map<string, number[]>()
  for (const { place, chance } of items) {
    const known = chances.get(place)
    if (known) known.push(chance)
    else chances.set(place, [chance])
  }
  const levels = new Map([...chances].map(([place, all]) => [place, [...new Set(all)].sort((a, b) => a - b)]))
  const worth: Record<string, number> = {}
  return {
    worth,
    items: items.map(({ key, minutes, place, share, chance }) => ({
      key,
      minutes,
      covers: (levels.get(place) ?? []).flatMap((level, at, all) => {
        if (level > chance) return []
        const name = `${place}#${at}`
        worth[name] = share * (level - (all[at - 1] ?? 0))
        return [name]
      }),
    })),
  }
}
