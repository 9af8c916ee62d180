import { groupBy } from '#core/lib/group.ts'

export interface OutlinePlace {
  readonly id: number
  readonly parent: number | null
  readonly position: number
}

/** Depth first, siblings by position: the order in which an outline is read. */
export function outlineOrder<T extends OutlinePlace>(
  places: readonly T[],
): { readonly place: T; readonly depth: number }[] {
  const known = new Set(places.map(({ id }) => id))
  const below = groupBy(places, ({ parent }) => (parent !== null && known.has(parent) ? parent : null))
  const walk = (parent: number | null, depth: number): { place: T; depth: number }[] =>
    [...(below.get(parent) ?? [])]
      .sort((a, b) => a.position - b.position || a.id - b.id)
      .flatMap((place) => [{ place, depth }, ...walk(place.id, depth + 1)])
  return walk(null, 0)
}

/** Would `under` sit below `moved` itself? Then the move would cut the branch off the outline. */
export function wouldCycle(places: readonly OutlinePlace[], moved: number, under: number | null): boolean {
  const parents = new Map(places.map(({ id, parent }) => [id, parent]))
  for (let at = under, hops = 0; at !== null && hops <= parents.size; at = parents.get(at) ?? null, hops++)
    if (at === moved) return true
  return false
}
