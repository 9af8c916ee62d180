import { type SQL, sql } from 'drizzle-orm'
import type { Quarantine } from '#core/runs/quarantine.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { quarantine } from './tables.ts'

export interface Quarantined extends Quarantine {
  readonly reason: string
}
const cells = { case: int, environment: maybe(int), reason: text }

/** Why the case of an item `i` does not count in its environment; null: it does. */
export const quarantineOfItem: SQL = sql`
  (
    select q.reason
    from quarantine q
    where q.case_id = i.case_id
      and q.until_at is null
      and (q.environment_id is null or q.environment_id = i.environment_id)
    order by q.id
    limit 1
  )`

const isOpenAt = (of: Quarantine): SQL => sql`
  case_id = ${of.case} and environment_id is ${of.environment} and until_at is null`

/** Puts a case into quarantine, unless it is in it there; answers whether it came in. */
export function addQuarantine(
  tx: Tx,
  { case: caseId, environment: environmentId, reason }: Quarantined,
  { personId, at }: { readonly personId: string; readonly at: number },
): boolean {
  const there = rowsOf(
    tx,
    cells,
    sql`
      select case_id as "case", environment_id as environment, reason
      from quarantine
      where case_id = ${caseId}
        and (environment_id is null or environment_id is ${environmentId})
        and until_at is null`,
  )
  if (there.length > 0) return false
  tx.insert(quarantine).values({ caseId, environmentId, reason, personId, fromAt: at }).run()
  return true
}

/** Lets a case out where it is in quarantine; answers what has ended. */
export const endQuarantineOf = (tx: Tx, of: Quarantine, at: number): Quarantined[] =>
  rowsOf(
    tx,
    cells,
    sql`
      update quarantine
      set until_at = ${at}
      where ${isOpenAt(of)}
      returning case_id as "case", environment_id as environment, reason`,
  )
