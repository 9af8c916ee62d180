/** Items by key, each group in the order given. */
export function groupBy<T, K>(items: Iterable<T>, key: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>()
  for (const item of items) {
    const at = key(item)
    const group = groups.get(at)
    if (group) group.push(item)
    else groups.set(at, [item])
  }
  return groups
}
