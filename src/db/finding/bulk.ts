import { type SQL, sql } from 'drizzle-orm'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'

export type BulkTable = 'requirement' | 'test_case'
export type BulkValue = string | number | null
export interface BulkRow {
  readonly id: number
  readonly number: number
  readonly values: Readonly<Record<string, BulkValue>>
}

const snake = (column: string): string => column.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)

/** What the columns say now, of those of the ids that are in the project and not deleted. Column names are a use case's own, never from outside. */
export function readMany(
  tx: Tx,
  table: BulkTable,
  projectId: number,
  of: { ids: readonly number[]; columns: readonly string[] },
): BulkRow[] {
  const columns = sql.raw(of.columns.map((column) => `, ${snake(column)} as "${column}"`).join(''))
  return tx
    .all<Record<string, BulkValue>>(
      sql`select id, number${columns} from ${sql.raw(table)} where project_id = ${projectId} and deleted_at is null and ${inIds(sql`id`, of.ids)} order by id`,
    )
    .map(({ id, number, ...values }) => ({ id: Number(id), number: Number(number), values }))
}

/** Sets the same columns of many rows by one statement. */
export function writeMany(
  tx: Tx,
  table: BulkTable,
  of: { ids: readonly number[]; set: Readonly<Record<string, BulkValue>>; now: number },
): void {
  const sets: SQL[] = Object.entries(of.set).map(([column, value]) => sql`${sql.raw(snake(column))} = ${value}`)
  tx.run(
    sql`update ${sql.raw(table)} set ${sql.join([...sets, sql`version = version + 1`, sql`updated_at = ${of.now}`], sql`, `)} where ${inIds(sql`id`, of.ids)}`,
  )
}

/** Numbers, by id, of those that are in the project and not deleted. */
export const keysOf = (tx: Tx, table: BulkTable, projectId: number, ids: readonly number[]): Map<number, number> =>
  new Map(
    tx
      .all<{ id: number; number: number }>(
        sql`select id, number from ${sql.raw(table)} where project_id = ${projectId} and deleted_at is null and ${inIds(sql`id`, ids)}`,
      )
      .map(({ id, number }) => [id, number]),
  )
