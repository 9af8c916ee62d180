/** Where ticked things go: one place up or down, or to either end. */
export type PlaceWay = 'up' | 'down' | 'first' | 'last'

/** An order in which some have moved together, those that were apart closing up; the others stay as they stood. */
export function moved(
  order: readonly number[],
  ids: readonly number[],
  to: PlaceWay | { readonly before: number },
): number[] {
  const some = new Set(ids)
  const own = order.filter((id) => some.has(id))
  const rest = order.filter((id) => !some.has(id))
  const place = placeAmong(order, { some, rest, to })
  return [...rest.slice(0, place), ...own, ...rest.slice(place)]
}

function placeAmong(
  order: readonly number[],
  {
    some,
    rest,
    to,
  }: { some: ReadonlySet<number>; rest: readonly number[]; to: PlaceWay | { readonly before: number } },
): number {
  if (typeof to === 'object') {
    const at = rest.indexOf(to.before)
    return at < 0 ? rest.length : at
  }
  if (to === 'first') return 0
  if (to === 'last') return rest.length
  const first = Math.max(
    0,
    order.findIndex((id) => some.has(id)),
  )
  return Math.min(rest.length, Math.max(0, first + (to === 'up' ? -1 : 1)))
}
