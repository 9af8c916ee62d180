/** The rows of the ids, in the order of the ids; an id without a row is passed over. */
export function inOrder<T extends { readonly id: number }>(ids: readonly number[], rows: readonly T[]): T[] {
  const byId = new Map(rows.map((row) => [row.id, row]))
  return ids.flatMap((id) => byId.get(id) ?? [])
}
