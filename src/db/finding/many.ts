import { type Cell, int, rowsOf } from '#db/rows.ts'
import { type SQL, sql } from 'drizzle-orm'
import { inIds } from './list.ts'
import type { Tx } from '#db/open.ts'

export type ManyKind = 'requirement' | 'case' | 'defect'
const tables = { requirement: 'requirement', case: 'test_case', defect: 'defect' } as const
export type ManyValue = string | number | null
export interface ManyRow {
  readonly id: number
  readonly number: number
  readonly values: Readonly<Record<string, ManyValue>>
}

const manyValue: Cell<ManyValue> = {
  kind: 'a text, a number or nothing',
  holds: (value) => value === null || typeof value === 'string' || typeof value === 'number',
}

const snake = (column: string): string => column.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)

/** What the columns say now, of those of the ids that are in the project and not deleted. Column names are a use case's own, never from outside. */
export function readMany(
  tx: Tx,
  kind: ManyKind,
  projectId: number,
  of: { ids: readonly number[]; columns: readonly string[] },
): ManyRow[] {
  const columns = sql.raw(of.columns.map((column) => `, ${snake(column)} as "${column}"`).join(''))
  return rowsOf(
    tx,
    { id: int, number: int, ...Object.fromEntries(of.columns.map((column) => [column, manyValue])) },
    sql`
      select id, number${columns}
      from ${sql.raw(tables[kind])}
      where project_id = ${projectId} and deleted_at is null and ${inIds(sql`id`, of.ids)}
      order by id`,
  ).map(({ id, number, ...values }) => ({ id, number, values }))
}

/** Sets the same columns of many rows by one statement. */
export function writeMany(
  tx: Tx,
  kind: ManyKind,
  of: { ids: readonly number[]; set: Readonly<Record<string, ManyValue>>; now: number },
): void {
  const sets: SQL[] = Object.entries(of.set).map(([column, value]) => sql`${sql.raw(snake(column))} = ${value}`)
  tx.run(
    sql`
      update ${sql.raw(tables[kind])}
      set ${sql.join([...sets, sql`version = version + 1`, sql`updated_at = ${of.now}`], sql`, `)}
      where ${inIds(sql`id`, of.ids)}`,
  )
}

/** Numbers, by id, of those that are in the project and not deleted. */
export const keysOf = (tx: Tx, kind: ManyKind, projectId: number, ids: readonly number[]): Map<number, number> =>
  new Map(
    rowsOf(
      tx,
      { id: int, number: int },
      sql`
        select id, number
        from ${sql.raw(tables[kind])}
        where project_id = ${projectId} and deleted_at is null and ${inIds(sql`id`, ids)}`,
    ).map(({ id, number }) => [id, number]),
  )
