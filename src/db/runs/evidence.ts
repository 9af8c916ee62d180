import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import type { Evidence } from '#core/runs/desk-contract.ts'
import type { Tx } from '#db/open.ts'

export const evidenceOf = (tx: Tx, projectKey: string, attemptId: number): Evidence[] =>
  rowsOf(
    tx,
    { name: text, id: int, at: int, step: maybe(int), row: maybe(int), mime: text, size: int },
    sql`
      select id, name, mime, size, "row", step_id as step, at
      from attachment
      where owner_kind = 'attempt' and owner_id = ${attemptId} and deleted_at is null
      order by id`,
  ).map((each) => ({ ...each, url: `/api/v1/projects/${projectKey}/evidence/${each.id}` }))
