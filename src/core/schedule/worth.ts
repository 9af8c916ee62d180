import { sumOf } from '#core/lib/figures.ts'
import type { StaleReason } from '#core/runs/freshness.ts'
import type { Verdict } from '#core/lib/verdict.ts'
import type { Problem } from './cover-program.ts'
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

/** Something that counts once, however many items answer it: a place of a case, or drafting targets in an environment. */
export interface Part {
  readonly of: string
  /** What it is worth if it is certain to teach something. */
  readonly share: number
}

/** What a requirement is proved by, piece by piece: drafting targets that the same cases answer, or one of its cases. */
export interface Unit {
  readonly cases: readonly number[]
  /** How many targets it stands for. */
  readonly n: number
}

export interface CaseShares {
  /** Of each of its places: what only it answers there. */
  readonly own: number
  /** What other cases answer as well, where they are executed in the same environment. */
  readonly shared: readonly Part[]
}

/**
 * What answering each place of each case is worth, if it were certain to teach something. The risk of a requirement is split evenly
 * over its units and their places; the part of it that no place answers belongs to none. A case adds what its importance is worth,
 * split evenly over its own places.
 */
export function sharesOf(of: {
  readonly requirements: readonly {
    readonly id: number
    readonly risk: number
    readonly units: readonly Unit[]
    /** All drafting targets, answered or not; `null` where its units are its cases. */
    readonly targets: number | null
  }[]
  /** Case → its places, each by what it is executed in, and what it adds by itself. */
  readonly cases: ReadonlyMap<number, { readonly slots: readonly string[]; readonly adds: number }>
}): ReadonlyMap<number, CaseShares> {
  const shares = new Map(
    [...of.cases].map(([id, { slots, adds }]) => [
      id,
      { own: slots.length === 0 ? 0 : adds / slots.length, shared: new Array<Part>() },
    ]),
  )
  for (const { id, risk, units, targets } of of.requirements) {
    const placed = units.map(({ cases, n }) => {
      const able = cases.filter((each) => (of.cases.get(each)?.slots.length ?? 0) > 0)
      return { able, n, places: new Set(able.flatMap((each) => of.cases.get(each)!.slots)).size }
    })
    const answered = sumOf(placed, ({ n, places }) => (places > 0 ? n : 0))
    const each = (risk * answered) / (targets ?? answered) / sumOf(placed, ({ n, places }) => n * places)
    placed.forEach(({ able, n }, at) => {
      const [only] = able
      if (only !== undefined && able.length === 1) shares.get(only)!.own += each * n
      else for (const one of able) shares.get(one)!.shared.push({ of: `${id}:${at}`, share: each * n })
    })
  }
  return shares
}

/** What an item answers by itself, at a place that is executed in some environment or in any of several. */
export const partsAt = ({ own, shared }: CaseShares, place: string, slot: string): Part[] => [
  { of: place, share: own },
  ...shared.map(({ of, share }) => ({ of: `${of}@${slot}`, share })),
]

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

/** An item with what it answers, the chance that it teaches something, and what it takes. */
export interface Weighed {
  readonly key: string
  readonly minutes: number
  /** Each counts once, by whichever chosen item is likeliest to teach something. */
  readonly parts: readonly Part[]
  readonly chance: number
}

/** What an item is worth if it is certain to teach something. */
export const shareOf = ({ parts }: Pick<Weighed, 'parts'>): number => sumOf(parts, ({ share }) => share)
/** What an item is worth by itself. */
export const worthOf = (item: Pick<Weighed, 'parts' | 'chance'>): number => shareOf(item) * item.chance

/** Of each part its share and the items that answer it, by their place. */
function byPart(items: readonly Weighed[]): Iterable<{ readonly share: number; readonly items: readonly number[] }> {
  const by = new Map<string, { share: number; items: number[] }>()
  items.forEach(({ parts }, at) => {
    for (const { of, share } of parts) {
      const known = by.get(of)
      if (known) known.items.push(at)
      else by.set(of, { share, items: [at] })
    }
  })
  return by.values()
}

/** A part is cut into so many levels at most: what hundreds of items answer would else be as many levels of hundreds each. */
const mostLevels = 32

/** Chances that tell the items of a part apart, ascending: all there are, or some of them as far apart by rank, the greatest among them. */
function levelsOf(chances: readonly number[]): number[] {
  const all = [...new Set(chances)].filter((chance) => chance > 0).sort((a, b) => a - b)
  const every = Math.max(1, all.length / mostLevels)
  return all.filter((_, at) => Math.ceil((all.length - 1 - at) / every) !== Math.ceil((all.length - at) / every))
}

/**
 * Items as what can be chosen, where a part counts once: the worth of a part is cut into levels, and an item covers the levels up
 * to its own chance, so that what a choice covers is worth the greatest chance among it times the share (of parts with very many
 * items never more than that, and exactly that for the likeliest of them).
 */
export function asChoice(items: readonly Weighed[]): Omit<Problem, 'budget'> {
  const covers = items.map((): number[] => [])
  const worth: number[] = []
  // What the same items cover is one thing, of whatever parts and levels.
  const things = new Map<string, number>()
  const thingOf = (able: readonly number[]): number => {
    const key = able.join()
    const known = things.get(key)
    if (known !== undefined) return known
    const thing = worth.push(0) - 1
    things.set(key, thing)
    for (const each of able) covers[each]!.push(thing)
    return thing
  }
  for (const { share, items: own } of byPart(items)) {
    let below = 0
    for (const level of levelsOf(own.map((at) => items[at]!.chance))) {
      worth[thingOf(own.filter((at) => items[at]!.chance >= level))]! += share * (level - below)
      below = level
    }
  }
  return {
    covers: covers.map((own) => Int32Array.from(own)),
    minutes: Float64Array.from(items, ({ minutes }) => minutes),
    worth: Float64Array.from(worth),
  }
}
