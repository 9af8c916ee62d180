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

/** Pictures kept with the attempts of a run's items that a document can show. */
export const picturesOfRun = (
  tx: Tx,
  runId: number,
): { attempt: number; name: string; mime: string; hash: string; size: number }[] =>
  rowsOf(
    tx,
    { attempt: int, name: text, mime: text, hash: text, size: int },
    sql`
      select f.owner_id as attempt, f.name, f.mime, f.hash, f.size
      from item i
      join attachment f on f.owner_kind = 'attempt' and f.owner_id = i.attempt_id
      where i.run_id = ${runId}
        and i.deleted_at is null
        and f.deleted_at is null
        and f.mime in ('image/png', 'image/jpeg')
      order by i.position, f.id`,
  )
