import { sql } from 'drizzle-orm'
import { inIds } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, rowsOf, text } from '#db/rows.ts'
import { itemCount } from './shape.ts'

/** The suites a run was made of. */
export const suitesOfRun = (tx: Tx, runId: number): number[] =>
  rowsOf(tx, { id: int }, sql`select suite_id as id from run_suite where run_id = ${runId} order by 1`).map(
    ({ id }) => id,
  )

const cells = { item: int, case: int, environment: int, key: text, title: text, place: text }
const columns = sql`
  i.id as item, i.case_id as "case", i.environment_id as environment, ${keySql('case', 'c.number')} as key, c.title,
  e.name as place`
const joined = sql`
  from item i
  join test_case c on c.id = i.case_id
  join environment e on e.id = i.environment_id`

/** Items of a run that are of some cases. */
export const itemsOfCases = (
  tx: Tx,
  runId: number,
  cases: readonly number[],
): { item: number; case: number; environment: number; key: string; title: string; place: string; begun: number }[] =>
  rowsOf(
    tx,
    { ...cells, begun: int },
    sql`
      select ${columns}, i.attempt_id is not null as begun
      ${joined}
      where i.run_id = ${runId} and i.deleted_at is null and ${inIds(sql`i.case_id`, cases)}
      order by i.position`,
  )

/** What was taken out of a run, the newest first; what is in it again is not told. */
export const takenOut = (
  tx: Tx,
  runId: number,
): {
  item: number
  case: number
  environment: number
  key: string
  title: string
  place: string
  reason: string
  at: number
}[] =>
  rowsOf(
    tx,
    { ...cells, reason: text, at: int },
    sql`
      select ${columns}, i.dropped_reason as reason, i.deleted_at as at
      ${joined}
      where i.run_id = ${runId}
        and i.deleted_at is not null
        and not exists (
          select 1
          from item t
          where t.run_id = i.run_id
            and t.case_id = i.case_id
            and t.environment_id = i.environment_id
            and t.deleted_at is null
        )
      order by i.deleted_at desc, i.id desc
      limit 500`,
  )

/** Cases that ever had an item in a run. */
export const casesEver = (tx: Tx, runId: number): Set<number> =>
  new Set(
    rowsOf(tx, { id: int }, sql`select distinct case_id as id from item where run_id = ${runId}`).map(({ id }) => id),
  )

/** Environments its items are in, and how many items it has. */
export const extentOf = (tx: Tx, runId: number): { environments: number[]; items: number } => ({
  environments: rowsOf(
    tx,
    { id: int },
    sql`select distinct environment_id as id from item where run_id = ${runId} and deleted_at is null order by 1`,
  ).map(({ id }) => id),
  items: itemCount(tx, runId),
})

/** Keys and titles of cases that are there. */
export const namedCases = (tx: Tx, cases: readonly number[]): Map<number, { key: string; title: string }> =>
  new Map(
    rowsOf(
      tx,
      { id: int, key: text, title: text },
      sql`
        select c.id, ${keySql('case', 'c.number')} as key, c.title
        from test_case c
        where ${inIds(sql`c.id`, cases)} and c.deleted_at is null and c.retired_at is null`,
    ).map(({ id, ...of }) => [id, of]),
  )
