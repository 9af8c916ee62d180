import { changedFields } from '#core/people/history.ts'

export interface BulkAnswer {
  readonly changed: number
  readonly undo: { readonly id: number; readonly set: Record<string, unknown> }[]
}

/** Sets the same fields of many; answers what each had before, so that one act takes it back. */
export function bulkEdit<T extends { id: number }, E extends Readonly<Record<string, unknown>>>(ids: readonly number[], set: E, of: { find: (id: number) => T; store: (before: T, edit: E) => void }): BulkAnswer {
  const undo = ids.flatMap((id) => {
    const before = of.find(id)
    const changes = changedFields({ ...before }, { ...set })
    if (Object.keys(changes).length === 0) return []
    of.store(before, set)
    return [{ id, set: Object.fromEntries(Object.entries(changes).map(([field, [from]]) => [field, from])) }]
  })
  return { changed: undo.length, undo }
}
