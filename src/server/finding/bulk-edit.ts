import { type Changes, changedFields } from '#core/history/changes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type BulkTable, type BulkValue, readMany, writeMany } from '#db/finding/bulk.ts'
import type { Context } from '#server/http/context.ts'

export interface BulkAnswer {
  readonly changed: number
  readonly undo: { readonly id: number; readonly set: Record<string, unknown> }[]
}

/** Sets the same fields of many, one by one where each change has rules of its own; answers what each had before. */
export function bulkEdit<T extends { id: number }, E extends Readonly<Record<string, unknown>>>(
  ids: readonly number[],
  set: E,
  of: { find: (id: number) => T; store: (before: T, edit: E) => void },
): BulkAnswer {
  const undo = ids.flatMap((id) => {
    const before = of.find(id)
    const changes = changedFields({ ...before }, { ...set })
    if (Object.keys(changes).length === 0) return []
    of.store(before, set)
    return [{ id, set: valuesBefore(changes) }]
  })
  return { changed: undo.length, undo }
}

const valuesBefore = (changes: Changes): Record<string, unknown> =>
  Object.fromEntries(Object.entries(changes).map(([field, [from]]) => [field, from]))

export interface BulkOf {
  readonly table: BulkTable
  readonly kind: string
  readonly prefix: string
  readonly ids: readonly number[]
  readonly set: Readonly<Record<string, BulkValue>>
}

/** The same for thousands at once: one statement reads, one writes, one keeps history, so that nobody waits for it. */
export function bulkSet(context: Context, of: BulkOf): BulkAnswer {
  const columns = Object.keys(of.set)
  const rows = readMany(context.tx, of.table, context.project.id, { ids: of.ids, columns })
  const wanted = new Set(of.ids)
  if (rows.length < wanted.size)
    throw new Refusal(
      'deleted',
      `${wanted.size - rows.length} of the chosen ones are not there any more; nothing was changed. Look at the list again.`,
    )
  const changed = rows
    .map((row) => ({ row, changes: changedFields({ ...row.values }, { ...of.set }) }))
    .filter(({ changes }) => Object.keys(changes).length > 0)
  if (changed.length === 0) return { changed: 0, undo: [] }
  writeMany(context.tx, of.table, { ids: changed.map(({ row }) => row.id), set: of.set, now: context.now })
  context.changeMany(
    changed.map(({ row, changes }) => ({
      kind: of.kind,
      id: row.id,
      ref: `${of.prefix}-${row.number}`,
      action: 'changed',
      detail: changes,
    })),
  )
  return {
    changed: changed.length,
    undo: changed.map(({ row, changes }) => ({ id: row.id, set: valuesBefore(changes) })),
  }
}
