import type { listHistory as contract } from '#core/history/contract.ts'
import { listChanges } from '#db/history/changes.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function listHistory({ tx, project }: Context, { query }: Input<typeof contract>): Answer<typeof contract> {
  const rows = listChanges(tx, project.id, query)
  return {
    rows: rows.map((row) => ({ ...row, detail: row.detail && { ...row.detail } })),
    next: rows.length === query.limit ? (rows.at(-1)?.id ?? null) : null,
  }
}
