import { plainText } from '#core/lib/plain-text.ts'
import type { StepText } from '#core/cases/steps.ts'

export interface Worded {
  readonly id: number
  readonly title: string
  readonly steps: readonly Pick<StepText, 'action' | 'expected' | 'data'>[]
}
export interface LikePair {
  readonly a: number
  readonly b: number
  /** What the words both have tell ÷ what the words of either tell (weighted Jaccard), between 0 and 1. */
  readonly likeness: number
}

export interface LikeAnswer {
  /** The likest first. */
  readonly pairs: readonly LikePair[]
  readonly whole: boolean
}

/** What a case says as a set: words with the part they stand in, and pairs of words that follow each other, so that order counts. */
export function termsOf(of: Worded): Set<string> {
  const terms = new Set<string>()
  const add = (part: string, text: string): void => {
    const words =
      plainText(text)
        .toLowerCase()
        .match(/[\p{L}\p{N}{}.,]+/gu) ?? []
    words.forEach((word, index) => {
      terms.add(`${part} ${word}`)
      const next = words[index + 1]
      if (next !== undefined) terms.add(`${part} ${word} ${next}`)
    })
  }
  add('t', of.title)
  for (const { action, expected, data } of of.steps) {
    add('a', action)
    add('e', expected)
    add('d', data)
  }
  return terms
}

/**
 * How much a term tells: 1 while at most a tenth of the cases has it, and less the more have it, as the words of steps that all
 * begin with do (inverse document frequency, flat for what is rare; Spärck Jones (1972), J. Documentation 28).
 */
export function termWeights(sets: readonly ReadonlySet<string>[]): Map<string, number> {
  const frequency = new Map<string, number>()
  for (const terms of sets) for (const term of terms) frequency.set(term, (frequency.get(term) ?? 0) + 1)
  const all = sets.length + 1
  const rare = Math.max(2, sets.length / 10)
  return new Map([...frequency].map(([term, n]) => [term, n <= rare ? 1 : Math.log(all / n) / Math.log(all / rare)]))
}

/**
 * All pairs of cases that are at least `atLeast` alike, exactly and without comparing each with each: two that are alike share
 * one of their most telling terms (prefix filter; Bayardo, Ma, Srikant (2007), “Scaling up all pairs similarity search”, WWW;
 * Xiao et al. (2011), “Efficient similarity joins for near-duplicate detection”, ACM TODS 36, here with weights). Where nearly all
 * are alike the filter holds nothing back; `comparisons` bounds the work, and the answer says when it was not `whole`.
 */
export function nearDuplicates(
  cases: readonly Worded[],
  of: { readonly atLeast?: number; readonly most?: number; readonly comparisons?: number } = {},
): LikeAnswer {
  const { atLeast = 0.6, most = 500, comparisons = Infinity } = of
  let left = comparisons
  const sets = cases.map((each) => ({ id: each.id, terms: termsOf(each) })).filter(({ terms }) => terms.size > 0)
  const weights = termWeights(sets.map(({ terms }) => terms))
  const order = [...weights].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
  const rank = new Map(order.map(([term], index) => [term, index]))
  const weight = order.map(([, own]) => own)
  const told = (ranks: readonly number[]): number => ranks.reduce((sum, at) => sum + (weight[at] ?? 0), 0)
  const ordered = sets
    .map(({ id, terms }) => {
      const ranks = [...terms].map((term) => rank.get(term) ?? 0).sort((a, b) => a - b)
      return { id, ranks, whole: told(ranks) }
    })
    .sort((a, b) => a.whole - b.whole || a.id - b.id)
  const index = new Map<number, number[]>()
  const pairs: LikePair[] = []
  ordered.forEach((own, at) => {
    const prefix = prefixOf(own, weight, atLeast)
    const seen = new Set<number>()
    for (const term of prefix)
      for (const other of index.get(term) ?? []) {
        const each = ordered[other]
        if (!each || left <= 0 || seen.has(other) || each.whole < (atLeast - dust) * own.whole) continue
        seen.add(other)
        left -= 1
        const shared = sharedWeight(own.ranks, each.ranks, weight)
        const likeness = shared / (own.whole + each.whole - shared)
        if (likeness >= atLeast - dust)
          pairs.push({ a: Math.min(own.id, each.id), b: Math.max(own.id, each.id), likeness: Math.min(1, likeness) })
      }
    for (const term of prefix) {
      const known = index.get(term)
      if (known) known.push(at)
      else index.set(term, [at])
    }
  })
  return {
    pairs: pairs.sort((x, y) => y.likeness - x.likeness || x.a - y.a || x.b - y.b).slice(0, most),
    whole: left > 0 && pairs.length <= most,
  }
}

/** Sums of weights carry binary dust. */
const dust = 1e-9

/** The terms without which so little is left that no other can be alike enough. */
function prefixOf(
  own: { readonly ranks: readonly number[]; readonly whole: number },
  weight: readonly number[],
  atLeast: number,
): number[] {
  let left = own.whole
  const prefix: number[] = []
  for (const term of own.ranks) {
    if (left < (atLeast - dust) * own.whole) break
    prefix.push(term)
    left -= weight[term] ?? 0
  }
  return prefix
}

function sharedWeight(a: readonly number[], b: readonly number[], weight: readonly number[]): number {
  let [i, j, shared] = [0, 0, 0]
  while (i < a.length && j < b.length) {
    const [x, y] = [a[i] ?? 0, b[j] ?? 0]
    if (x === y) {
      shared += weight[x] ?? 0
      i++
      j++
    } else if (x < y) i++
    else j++
  }
  return shared
}

/** Cases that hang together by pairs, each group with its likest pair first. */
export function likeGroups(
  pairs: readonly LikePair[],
): { readonly ids: readonly number[]; readonly likeness: number }[] {
  const parent = new Map<number, number>()
  const top = (id: number): number => {
    const above = parent.get(id) ?? id
    if (above === id) return id
    const root = top(above)
    parent.set(id, root)
    return root
  }
  for (const { a, b } of pairs) parent.set(top(b), top(a))
  const groups = new Map<number, { ids: Set<number>; likeness: number }>()
  for (const { a, b, likeness } of pairs) {
    const group = groups.get(top(a)) ?? { ids: new Set<number>(), likeness }
    group.ids.add(a).add(b)
    groups.set(top(a), { ids: group.ids, likeness: Math.max(group.likeness, likeness) })
  }
  return [...groups.values()]
    .map(({ ids, likeness }) => ({ ids: [...ids].sort((x, y) => x - y), likeness }))
    .sort((x, y) => y.likeness - x.likeness || (x.ids[0] ?? 0) - (y.ids[0] ?? 0))
}
