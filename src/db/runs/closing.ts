import { sql } from 'drizzle-orm'
import { closings } from '#core/projects/policy.ts'
import type { Tx } from '#db/open.ts'
import { int, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { itemCount } from './shape.ts'

export interface RunToClose {
  readonly id: number
  readonly projectId: number
  readonly endOn: string
  readonly closes: (typeof closings)[number]
}

/** Open runs whose policy says that they close by themselves. */
export const runsThatClose = (tx: Tx): RunToClose[] =>
  rowsOf(
    tx,
    { id: int, projectId: int, endOn: text, closes: oneOf(closings) },
    sql`
      select u.id, u.project_id as projectId, u.end_on as endOn, o.closes
      from policy o
      join project j on j.id = o.project_id
      join run u on u.project_id = j.id and coalesce(u.policy_id, j.policy_id) = o.id
      where o.closes <> 'by hand' and u.state = 'Open' and u.deleted_at is null
      order by u.id`,
  )

/** Has every item of a run its verdict, the newest of them not after an instant in ms? A run without items has not. */
export function isExecuted(tx: Tx, runId: number, upTo: number): boolean {
  const open = rowOf(
    tx,
    { id: int },
    sql`
      select i.id
      from item i
      left join attempt a on a.id = i.attempt_id
      where i.run_id = ${runId} and i.deleted_at is null and (a.id is null or a.final = 0 or a.finished_at > ${upTo})
      limit 1`,
  )
  return open === undefined && itemCount(tx, runId) > 0
}
