import type { ManyChanged } from '#core/lib/many.ts'
import { type Changes, changedFields } from '#core/history/changes.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type ManyKind, type ManyValue, readMany, writeMany } from '#db/finding/many.ts'
import type { Context } from '#server/http/context.ts'

/** Sets the same fields of many, one by one where each change has rules of its own; answers what each had before. */
export function changeEach<T extends { id: number }, S extends Readonly<Record<string, unknown>>>(
  ids: readonly number[],
  set: S,
  of: { find: (id: number) => T; store: (before: T, edit: S) => void },
): ManyChanged<S> {
  const undo = ids.flatMap((id) => {
    const before = of.find(id)
    const changes = changedFields({ ...before }, { ...set })
    if (Object.keys(changes).length === 0) return []
    of.store(before, set)
    return [{ id, set: setBefore<S>(changes) }]
  })
  return { changed: undo.length, undo }
}

// The changes are of the fields that were set, and their values before are of the same kinds.
const setBefore = <S>(changes: Changes): S =>
  Object.fromEntries(Object.entries(changes).map(([field, [from]]) => [field, from])) as S

/** The same for thousands at once: one statement reads, one writes, one keeps history, so that nobody waits for it. */
export function changeMany<S extends Readonly<Record<string, ManyValue>>>(
  context: Context,
  { kind, ids, set }: { readonly kind: ManyKind; readonly ids: readonly number[]; readonly set: S },
): ManyChanged<Partial<S>> {
  if (Object.keys(set).length === 0 || ids.length === 0) return { changed: 0, undo: [] }
  const rows = readMany(context.tx, kind, context.project.id, { ids, columns: Object.keys(set) })
  const missing = new Set(ids).size - rows.length
  if (missing > 0)
    throw new Refusal(
      'deleted',
      `${missing} of the chosen ones are not there any more; nothing was changed. Look at the list again.`,
    )
  const changed = rows
    .map((row) => ({ row, changes: changedFields({ ...row.values }, { ...set }) }))
    .filter(({ changes }) => Object.keys(changes).length > 0)
  if (changed.length === 0) return { changed: 0, undo: [] }
  writeMany(context.tx, kind, { ids: changed.map(({ row }) => row.id), set, now: context.now })
  context.changeMany(
    changed.map(({ row, changes }) => ({
      kind,
      id: row.id,
      ref: keyOf(kind, row.number),
      action: 'changed',
      detail: changes,
    })),
  )
  return {
    changed: changed.length,
    undo: changed.map(({ row, changes }) => ({ id: row.id, set: setBefore<Partial<S>>(changes) })),
  }
}

/** Sets of one change, one after the other, as one answer. */
export const joinParts = <S extends object>(
  parts: readonly ManyChanged<S>[],
  stopped: string | undefined,
): ManyChanged<S> => ({ ...joinChanges(...parts), stopped })
interface Deleted {
  readonly refs: string[]
  readonly stopped?: string | undefined
}
export const joinDeleted = (parts: readonly Deleted[], stopped: string | undefined): Deleted => ({
  refs: parts.flatMap(({ refs }) => refs),
  stopped,
})

/** Several changes of many as one: what each was set to before, by all of them. */
export function joinChanges<S extends object>(...parts: readonly ManyChanged<S>[]): ManyChanged<S> {
  const sets = new Map<number, S>()
  for (const { undo } of parts) for (const { id, set } of undo) sets.set(id, { ...sets.get(id), ...set })
  return { changed: sets.size, undo: [...sets].map(([id, set]) => ({ id, set })) }
}
