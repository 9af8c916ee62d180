/** Undoing a change of many asks once for all that had the same before, not once for each. */
export function undoGroups(
  undo: readonly { readonly id: number; readonly set: Readonly<Record<string, unknown>> }[],
): { ids: number[]; set: Record<string, unknown> }[] {
  const groups = new Map<string, { ids: number[]; set: Record<string, unknown> }>()
  for (const { id, set } of undo) {
    const key = JSON.stringify(set)
    const group = groups.get(key) ?? { ids: [], set: { ...set } }
    group.ids.push(id)
    groups.set(key, group)
  }
  return [...groups.values()]
}
