import { plainText } from '#core/lib/plain-text.ts'
import type { StepText } from './steps.ts'

export interface Worded {
  readonly id: number
  readonly title: string
  readonly steps: readonly Pick<StepText, 'action' | 'expected' | 'data'>[]
}
export interface LikePair {
  readonly a: number
  readonly b: number
  /** Jaccard: words both have ÷ words either has, between 0 and 1. */
  readonly likeness: number
}

/** What a case says as a set: words with the part they stand in, and pairs of words that follow each other, so that order counts. */
export function termsOf(of: Worded): Set<string> {
  const terms = new Set<string>()
  const add = (part: string, text: string): void => {
    const words = plainText(text).toLowerCase().match(/[\p{L}\p{N}{}.,]+/gu) ?? []
    words.forEach((word, index) => {
      terms.add(`${part} ${word}`)
      const next = words[index + 1]
      if (next !== undefined) terms.add(`${part} ${word} ${next}`)
    })
  }
  add('t', of.title)
  for (const { action, expected, data } of of.steps) { add('a', action); add('e', expected); add('d', data) }
  return terms
}

/**
 * All pairs of cases whose sets of words are at least `atLeast` alike, exactly and without comparing each with each:
 * two sets that are alike share one of their rarest terms (prefix filter; Bayardo, Ma, Srikant (2007), “Scaling up all pairs
 * similarity search”, WWW; Xiao et al. (2011), “Efficient similarity joins for near-duplicate detection”, ACM TODS 36).
 */
export function nearDuplicates(cases: readonly Worded[], of: { readonly atLeast?: number; readonly most?: number } = {}): LikePair[] {
  const { atLeast = 0.6, most = 500 } = of
  const sets = cases.map((each) => ({ id: each.id, terms: [...termsOf(each)] })).filter(({ terms }) => terms.length > 0)
  const frequency = new Map<string, number>()
  for (const { terms } of sets) for (const term of terms) frequency.set(term, (frequency.get(term) ?? 0) + 1)
  const rank = new Map([...frequency].sort((a, b) => a[1] - b[1] || (a[0] < b[0] ? -1 : 1)).map(([term], index) => [term, index]))
  const ordered = sets.map(({ id, terms }) => ({ id, ranks: terms.map((term) => rank.get(term) ?? 0).sort((a, b) => a - b) })).sort((a, b) => a.ranks.length - b.ranks.length || a.id - b.id)
  const index = new Map<number, number[]>()
  const pairs: LikePair[] = []
  ordered.forEach((own, at) => {
    const size = own.ranks.length
    const prefix = size - Math.ceil(atLeast * size) + 1
    const seen = new Set<number>()
    for (const term of own.ranks.slice(0, prefix))
      for (const other of index.get(term) ?? []) {
        const each = ordered[other]
        if (!each || seen.has(other) || each.ranks.length < atLeast * size) continue
        seen.add(other)
        const likeness = jaccard(own.ranks, each.ranks)
        if (likeness >= atLeast) pairs.push({ a: Math.min(own.id, each.id), b: Math.max(own.id, each.id), likeness })
      }
    for (const term of own.ranks.slice(0, prefix)) index.set(term, [...(index.get(term) ?? []), at])
  })
  return pairs.sort((x, y) => y.likeness - x.likeness || x.a - y.a || x.b - y.b).slice(0, most)
}

function jaccard(a: readonly number[], b: readonly number[]): number {
  let [i, j, shared] = [0, 0, 0]
  while (i < a.length && j < b.length) {
    const [x, y] = [a[i] ?? 0, b[j] ?? 0]
    if (x === y) { shared++; i++; j++ } else if (x < y) i++
    else j++
  }
  return shared / (a.length + b.length - shared)
}

/** Cases that hang together by pairs, each group with its likest pair first. */
export function likeGroups(pairs: readonly LikePair[]): { readonly ids: readonly number[]; readonly likeness: number }[] {
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
  return [...groups.values()].map(({ ids, likeness }) => ({ ids: [...ids].sort((x, y) => x - y), likeness })).sort((x, y) => y.likeness - x.likeness || (x.ids[0] ?? 0) - (y.ids[0] ?? 0))
}
