import { leastCover } from '#core/lib/set-cover.ts'

/** Something that was executed once: where, with what, and whether it failed. */
export interface Observation {
  /** Factor → value: of the environment, of the data row, the build, the case. */
  readonly values: Readonly<Record<string, string>>
  readonly failed: boolean
}
/** Something that could be executed next. */
export interface Possible<Id> {
  readonly id: Id
  readonly values: Readonly<Record<string, string>>
}
/** A combination of values that every failure it explains has, and no pass. */
interface Shared {
  readonly values: Readonly<Record<string, string>>
  /** How many failures have it. */
  readonly failures: number
  /** Passes that differ from it in one of its values alone: they show that the value matters. */
  readonly backing: number
  /** Other combinations of as few values that explain the same failures. */
  readonly instead: readonly Readonly<Record<string, string>>[]
}
export interface SharedFailures<Id> {
  readonly failures: number
  readonly passes: number
  /** The fewest combinations that explain all failures that can be explained, the one of most failures first. */
  readonly explanations: readonly Shared[]
  /** Failures of which each combination of up to three values passed elsewhere. */
  readonly unexplained: number
  /** What would tell the most if it were executed next; `null`: nothing that could be executed tells one explanation from another. */
  readonly next: { readonly id: Id; readonly against: number; readonly of: number } | null
}

const most = 3
type Value = readonly [factor: string, value: string]
interface Combination {
  readonly parts: readonly Value[]
  /** Which failures have it, by their places. */
  readonly explains: ReadonlySet<string>
  readonly backing: number
}

/**
 * What failures share: the smallest combinations of up to three values that explain them and contradict no pass, in the manner of
 * identifying faulty interactions (C. Nie, H. Leung, “The minimal failure-causing schema of combinatorial testing”, ACM TOSEM 20(4),
 * 2011): a combination is taken when no pass has it and each part of it, taken alone, some pass has. Of these the fewest that hold all
 * failures. The next thing to execute is the one on which explanations of the same failures disagree most evenly.
 */
export function sharedByFailures<Id>(
  observations: readonly Observation[],
  possible: readonly Possible<Id>[] = [],
): SharedFailures<Id> {
  const failures = observations.filter(({ failed }) => failed)
  const passes = observations.filter(({ failed }) => !failed)
  const index = indexOf(passes)
  const combinations = minimalCombinations(failures, index)
  const best = bestByExplained(combinations)
  const chosen = leastCover(best.map(([first]) => first.explains)).flatMap((at) => best[at] ?? [])
  const groups = best.filter(([first]) => chosen.some((each) => each === first))
  const explained = new Set(groups.flatMap(([first]) => [...first.explains]))
  return {
    failures: failures.length,
    passes: passes.length,
    explanations: groups
      .map(([first, ...others]) => ({
        values: Object.fromEntries(first.parts),
        failures: first.explains.size,
        backing: first.backing,
        instead: others
          .filter(({ parts }) => parts.length === first.parts.length)
          .slice(0, 5)
          .map(({ parts }) => Object.fromEntries(parts)),
      }))
      .sort((a, b) => b.failures - a.failures),
    unexplained: failures.length - explained.size,
    next: nextToTell(groups, possible),
  }
}

/** Passes by each of their values, as bits. */
interface Index {
  readonly passes: readonly Observation[]
  readonly words: number
  readonly having: (value: Value) => Uint32Array
}

function indexOf(passes: readonly Observation[]): Index {
  const words = Math.ceil(passes.length / 32)
  const none = new Uint32Array(words)
  const bits = new Map<string, Uint32Array>()
  for (const [at, { values }] of passes.entries())
    for (const value of Object.entries(values)) {
      const key = keyOf([value])
      const own = bits.get(key) ?? new Uint32Array(words)
      bits.set(key, own)
      own[at >> 5] = (own[at >> 5] ?? 0) | (1 << (at & 31))
    }
  return { passes, words, having: (value) => bits.get(keyOf([value])) ?? none }
}

const keyOf = (parts: readonly Value[]): string => JSON.stringify(parts)

function bothOf(parts: readonly Value[], { words, having }: Index): Uint32Array {
  const all = new Uint32Array(words).fill(0xffffffff)
  for (const part of parts) {
    const own = having(part)
    for (let at = 0; at < words; at++) all[at] = (all[at] ?? 0) & (own[at] ?? 0)
  }
  return all
}
const isPassed = (parts: readonly Value[], index: Index): boolean => {
  const { words, passes } = index
  const bits = bothOf(parts, index)
  for (let at = 0; at < words; at++) {
    // Above the last pass there is nothing.
    const left = passes.length - at * 32
    const mask = left >= 32 ? 0xffffffff : (1 << left) - 1
    if (((bits[at] ?? 0) & mask) !== 0) return true
  }
  return false
}
function countPassed(parts: readonly Value[], index: Index): number {
  const bits = bothOf(parts, index)
  return index.passes.reduce((sum, _pass, at) => sum + (((bits[at >> 5] ?? 0) >>> (at & 31)) & 1), 0)
}

/** Combinations that some failure has and no pass, of which no part alone is one. */
function minimalCombinations(failures: readonly Observation[], index: Index): Combination[] {
  const explains = new Map<string, { parts: readonly Value[]; places: Set<string> }>()
  const isFree = new Map<string, boolean>()
  const free = (parts: readonly Value[]): boolean => {
    const key = keyOf(parts)
    const known = isFree.get(key) ?? !isPassed(parts, index)
    isFree.set(key, known)
    return known
  }
  for (const [at, { values }] of failures.entries()) {
    const own = Object.entries(values).sort(([a], [b]) => (a < b ? -1 : 1))
    for (const parts of partsUpTo(own, most)) {
      if (!free(parts) || parts.some((_part, out) => parts.length > 1 && free(parts.filter((_, i) => i !== out))))
        continue
      const key = keyOf(parts)
      const entry = explains.get(key) ?? { parts, places: new Set<string>() }
      explains.set(key, entry)
      entry.places.add(String(at))
    }
  }
  return [...explains.values()].map(({ parts, places }) => ({
    parts,
    explains: places,
    backing: parts.reduce(
      (sum, _part, out) =>
        sum +
        countPassed(
          parts.filter((_, at) => at !== out),
          index,
        ),
      0,
    ),
  }))
}

/** Every way to take one to `size` of the values, few first. */
function partsUpTo(values: readonly Value[], size: number): (readonly Value[])[] {
  let last: { parts: readonly Value[]; from: number }[] = [{ parts: [], from: 0 }]
  const all: (readonly Value[])[] = []
  for (let n = 1; n <= size; n++) {
    last = last.flatMap(({ parts, from }) =>
      values.slice(from).map((value, at) => ({ parts: [...parts, value], from: from + at + 1 })),
    )
    all.push(...last.map(({ parts }) => parts))
  }
  return all
}

/** Combinations that explain the same failures together: those of fewest values first, then of most backing. */
function bestByExplained(combinations: readonly Combination[]): (readonly [Combination, ...Combination[]])[] {
  const groups = new Map<string, [Combination, ...Combination[]]>()
  for (const each of combinations) {
    const key = [...each.explains].join()
    const group = groups.get(key)
    if (group) group.push(each)
    else groups.set(key, [each])
  }
  for (const group of groups.values())
    group.sort(
      (a, b) => a.parts.length - b.parts.length || b.backing - a.backing || (keyOf(a.parts) < keyOf(b.parts) ? -1 : 1),
    )
  // What explains less than another of as few values need not be looked at.
  return [...groups.values()].sort(
    ([a], [b]) => b.explains.size - a.explains.size || a.parts.length - b.parts.length || b.backing - a.backing,
  )
}

/** The possible thing on which explanations of the same failures disagree most evenly. */
function nextToTell<Id>(
  groups: readonly (readonly Combination[])[],
  possible: readonly Possible<Id>[],
): SharedFailures<Id>['next'] {
  let best: { id: Id; against: number; of: number; even: number } | null = null
  for (const { id, values } of possible)
    for (const group of groups) {
      if (group.length < 2) continue
      const against = group.filter(({ parts }) => parts.every(([factor, value]) => values[factor] === value)).length
      const even = Math.min(against, group.length - against)
      if (even > (best?.even ?? 0)) best = { id, against, of: group.length, even }
    }
  return best && { id: best.id, against: best.against, of: best.of }
}
