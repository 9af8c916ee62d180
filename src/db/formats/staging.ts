import { int, rowOf, rowsOf } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'

type Table = 'requirement' | 'test_case'

/** Rows being imported are marked deleted at instant 1, which no person can do, until all of them are there. */
export function showStaged(
  tx: Tx,
  table: Table,
  ids: readonly number[],
  parents: readonly { id: number; parent: number | null }[],
): void {
  if (parents.length > 0)
    tx.run(
      sql`
        update requirement
        set parent_id = (
          select j.value ->> 'parent'
          from json_each(${JSON.stringify(parents)}) j
          where j.value ->> 'id' = requirement.id
        )
        where ${inIds(sql`id`, ids)}`,
    )
  tx.run(sql`update ${sql.raw(table)} set deleted_at = null where ${inIds(sql`id`, ids)}`)
}

/** Takes staged rows out again, with all that hangs on them. */
export function dropStaged(tx: Tx, table: Table, ids: readonly number[]): void {
  const kind = table === 'requirement' ? 'requirement' : 'case'
  tx.run(sql`delete from tagging where owner_kind = ${kind} and ${inIds(sql`owner_id`, ids)}`)
  tx.run(
    sql`
      delete
      from custom_value
      where field_id in (select id from custom_field where owner_kind = ${kind})
        and ${inIds(sql`owner_id`, ids)}`,
  )
  if (table === 'requirement') {
    tx.run(sql`delete from requirement_target where ${inIds(sql`requirement_id`, ids)}`)
    tx.run(sql`delete from requirement_revision where ${inIds(sql`requirement_id`, ids)}`)
    tx.run(sql`delete from requirement where ${inIds(sql`id`, ids)}`)
    return
  }
  tx.run(sql`delete from link where ${inIds(sql`case_id`, ids)}`)
  tx.run(
    sql`delete from version_step where version_id in (select id from case_version where ${inIds(sql`case_id`, ids)})`,
  )
  tx.run(sql`delete from data_row where version_id in (select id from case_version where ${inIds(sql`case_id`, ids)})`)
  tx.run(sql`delete from step where ${inIds(sql`case_id`, ids)}`)
  tx.run(sql`delete from case_version where ${inIds(sql`case_id`, ids)}`)
  tx.run(sql`delete from test_case where ${inIds(sql`id`, ids)}`)
}

/** What an import that was cut off (by a power failure, say) left behind. */
export function dropLeftovers(tx: Tx): number {
  const ids = (table: Table) =>
    rowsOf(tx, { id: int }, sql`select id from ${sql.raw(table)} where deleted_at = 1`).map(({ id }) => id)
  const left = { requirement: ids('requirement'), test_case: ids('test_case') }
  for (const table of ['requirement', 'test_case'] as const)
    if (left[table].length > 0) dropStaged(tx, table, left[table])
  return left.requirement.length + left.test_case.length
}

export const findByTitle = (tx: Tx, table: Table, projectId: number, title: string): number | null =>
  rowOf(
    tx,
    { id: int },
    sql`
      select id
      from ${sql.raw(table)}
      where project_id = ${projectId} and title = ${title} and deleted_at is null
      order by id
      limit 1`,
  )?.id ?? null
