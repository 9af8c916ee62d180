import { plainText } from '#core/lib/plain-text.ts'
import type { StepText } from '#core/cases/steps.ts'

export interface Sequence {
  readonly id: number
  readonly steps: readonly Pick<StepText, 'action' | 'expected' | 'data' | 'use'>[]
}
/** The same steps in the same order in several cases. */
export interface Repeat {
  readonly length: number
  /** Where it stands: the case, and the index of its first step; at most one place a case. */
  readonly places: readonly { readonly id: number; readonly at: number }[]
  /** Steps that need not be written any more once a routine holds them. */
  readonly saved: number
}

/** Two steps are the same when they read the same: marks, case of letters and white space do not count. */
export const stepSense = ({ action, expected, data, use }: Sequence['steps'][number]): string =>
  use
    ? `\u0000${use.ref}\u0000${JSON.stringify(use.values)}`
    : [action, expected, data].map((text) => plainText(text).toLowerCase().replace(/\s+/g, ' ').trim()).join('\u0001')

/**
 * Runs of steps that stand word for word in at least `cases` cases, that no longer run with the same places contains;
 * the most worth first. Found as intervals of common prefixes over the sorted suffixes of all sequences
 * (Abouelhoda, Kurtz, Ohlebusch (2004), “Replacing suffix trees with enhanced suffix arrays”, J. Discrete Algorithms 2).
 */
export function repeatedSteps(
  sequences: readonly Sequence[],
  of: { readonly length?: number; readonly cases?: number; readonly most?: number } = {},
): Repeat[] {
  const { length: shortest = 2, cases = 2, most = 200 } = of
  const words = sequences.map(({ steps }) => steps.map(stepSense))
  const codes = numbered(words)
  const suffixes = codes.flatMap((sequence, at) =>
    sequence.map((_, from) => ({ at, from })).slice(0, Math.max(0, sequence.length - shortest + 1)),
  )
  const code = (at: number, index: number): number => codes[at]?.[index] ?? -1
  const compare = (a: (typeof suffixes)[number], b: (typeof suffixes)[number]): number => {
    for (let offset = 0; ; offset++) {
      const [x, y] = [code(a.at, a.from + offset), code(b.at, b.from + offset)]
      if (x !== y) return x - y
      if (x === -1) return a.at - b.at || a.from - b.from
    }
  }
  suffixes.sort(compare)
  const common = suffixes.map((suffix, index) => {
    const before = suffixes[index - 1]
    if (!before) return 0
    let shared = 0
    while (
      code(suffix.at, suffix.from + shared) !== -1 &&
      code(suffix.at, suffix.from + shared) === code(before.at, before.from + shared)
    )
      shared++
    return shared
  })
  const found: Repeat[] = []
  const close = (length: number, low: number, high: number): void => {
    const places = firstPlaces(suffixes.slice(low, high), sequences, length)
    if (places.length < cases || longerBefore(places, code)) return
    found.push({
      length,
      places: places.map(({ at, from }) => ({ id: sequences[at]?.id ?? 0, at: from })),
      saved: length * places.length - length - places.length,
    })
  }
  // The intervals of equal common prefix, innermost first, by one pass with a stack.
  const open: { length: number; low: number }[] = []
  for (let index = 1; index <= suffixes.length; index++) {
    const shared = common[index] ?? 0
    let low = index - 1
    for (let top = open.at(-1); top && top.length > shared; top = open.at(-1)) {
      open.pop()
      close(top.length, top.low, index)
      low = top.low
    }
    if (shared >= shortest && (open.at(-1)?.length ?? 0) < shared) open.push({ length: shared, low })
  }
  return withoutCovered(found)
    .sort((a, b) => b.saved - a.saved || b.length - a.length || (a.places[0]?.id ?? 0) - (b.places[0]?.id ?? 0))
    .slice(0, most)
}

function numbered(words: readonly (readonly string[])[]): number[][] {
  const codes = new Map<string, number>()
  return words.map((all) =>
    all.map((word) => {
      const known = codes.get(word)
      if (known !== undefined) return known
      codes.set(word, codes.size)
      return codes.size - 1
    }),
  )
}

interface Suffix {
  readonly at: number
  readonly from: number
}

/** One place a case, the first. */
function firstPlaces(suffixes: readonly Suffix[], sequences: readonly Sequence[], length: number): Suffix[] {
  const first = new Map<number, Suffix>()
  for (const suffix of suffixes) {
    if ((sequences[suffix.at]?.steps.length ?? 0) < suffix.from + length) continue
    const known = first.get(suffix.at)
    if (!known || suffix.from < known.from) first.set(suffix.at, suffix)
  }
  return [...first.values()].sort((a, b) => a.at - b.at)
}

/** Does the same step stand before each of them? Then the longer run says it all. */
function longerBefore(places: readonly Suffix[], code: (at: number, index: number) => number): boolean {
  const [first] = places
  if (!first || first.from === 0) return false
  const before = code(first.at, first.from - 1)
  return places.every(({ at, from }) => from > 0 && code(at, from - 1) === before)
}

/** Drops a run that lies wholly inside a longer one in each of its places. */
function withoutCovered(found: readonly Repeat[]): Repeat[] {
  const byCase = new Map<number, { repeat: Repeat; from: number; to: number }[]>()
  for (const repeat of found)
    for (const { id, at } of repeat.places)
      byCase.set(id, [...(byCase.get(id) ?? []), { repeat, from: at, to: at + repeat.length }])
  return found.filter((own) => {
    const [first] = own.places
    const around = (byCase.get(first?.id ?? 0) ?? []).filter(
      ({ repeat, from, to }) =>
        first &&
        repeat.length > own.length &&
        repeat.places.length >= own.places.length &&
        from <= first.at &&
        to >= first.at + own.length,
    )
    return !around.some(({ repeat }) =>
      own.places.every(({ id, at }) =>
        repeat.places.some((place) => place.id === id && place.at <= at && place.at + repeat.length >= at + own.length),
      ),
    )
  })
}
