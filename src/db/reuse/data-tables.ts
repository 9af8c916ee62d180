import { textsIn, valuesIn } from '#db/json.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { TableRow } from '#core/reuse/table-contract.ts'
import type { Tx } from '#db/open.ts'
import { dataRowUse, dataTable, dataTableRow } from '#db/cases/tables.ts'

export type TableStored = typeof dataTable.$inferSelect
export type TableRowStored = Omit<typeof dataTableRow.$inferSelect, 'values'> & {
  readonly values: Record<string, string>
}

const usingSql = sql`
  select c.id
  from case_version v
  join test_case c on c.id = v.case_id
  where v.table_id = t.id and v.major is null and c.deleted_at is null`

export const tableRows = (tx: Tx, projectId: number, id?: number): TableRow[] =>
  rowsOf(
    tx,
    { name: text, id: int, version: int, cases: int, rows: int, held: int, columns: text, usedUp: int },
    sql`
      select t.id, t.name, t.columns, t.version, t.used_up as usedUp,
        (select count(*) from data_table_row where table_id = t.id) as "rows",
        (select count(*) from data_table_row where table_id = t.id and held_by is not null) as held,
        (select count(*) from (${usingSql})) as cases
      from data_table t
      where t.project_id = ${projectId}
        and t.deleted_at is null ${id === undefined ? sql`` : sql`and t.id = ${id}`}
      order by t.name`,
  ).map((row) => ({ ...row, columns: textsIn(row.columns), usedUp: row.usedUp === 1 }))

export const tableById = (tx: Tx, projectId: number, id: number): TableStored | undefined =>
  tx
    .select()
    .from(dataTable)
    .where(and(eq(dataTable.id, id), eq(dataTable.projectId, projectId)))
    .get()
export const tableNamed = (tx: Tx, projectId: number, name: string): TableStored | undefined =>
  tx
    .select()
    .from(dataTable)
    .where(and(eq(dataTable.projectId, projectId), eq(dataTable.name, name), isNull(dataTable.deletedAt)))
    .get()
export const addTable = (tx: Tx, projectId: number, name: string, columns: readonly string[]): number =>
  tx
    .insert(dataTable)
    .values({ projectId, name, columns: JSON.stringify(columns) })
    .returning({ id: dataTable.id })
    .get().id
export const saveTable = (tx: Tx, id: number, edit: Partial<TableStored>): void =>
  void tx.update(dataTable).set(edit).where(eq(dataTable.id, id)).run()

export const rowsOfTable = (tx: Tx, tableId: number): TableRowStored[] =>
  tx
    .select()
    .from(dataTableRow)
    .where(eq(dataTableRow.tableId, tableId))
    .orderBy(dataTableRow.position, dataTableRow.id)
    .all()
    .map((row) => ({ ...row, values: valuesIn(row.values) }))
export const addTableRow = (
  tx: Tx,
  tableId: number,
  position: number,
  values: Readonly<Record<string, string>>,
): number =>
  tx
    .insert(dataTableRow)
    .values({ tableId, position, values: JSON.stringify(values) })
    .returning({ id: dataTableRow.id })
    .get().id
export const saveTableRow = (tx: Tx, id: number, { values, ...edit }: Partial<TableRowStored>): void =>
  void tx
    .update(dataTableRow)
    .set({ ...edit, ...(values && { values: JSON.stringify(values) }) })
    .where(eq(dataTableRow.id, id))
    .run()
export function dropTableRow(tx: Tx, id: number): void {
  tx.delete(dataRowUse).where(eq(dataRowUse.rowId, id)).run()
  tx.delete(dataTableRow).where(eq(dataTableRow.id, id)).run()
}

/** Gives back what an attempt has checked out. */
export const releaseHeld = (tx: Tx, attemptId: number): void =>
  void tx
    .update(dataTableRow)
    .set({ heldBy: null, heldAt: null, heldAttemptId: null })
    .where(eq(dataTableRow.heldAttemptId, attemptId))
    .run()

/** Who holds rows of a table and for which case. */
export const holdersOf = (tx: Tx, tableId: number): { row: number; person: string | null; case: string | null }[] =>
  rowsOf(
    tx,
    { row: int, person: maybe(text), case: maybe(text) },
    sql`
      select d.id as "row", p.name as person,
        (
          select ${keySql('case', 'c.number')}
          from attempt a
          join test_case c on c.id = a.case_id
          where a.id = d.held_attempt_id
        ) as "case"
      from data_table_row d
      left join person p on p.id = d.held_by
      where d.table_id = ${tableId} and d.held_by is not null
      order by d.position`,
  )

export const casesOfTable = (tx: Tx, tableId: number): { key: string; title: string; mode: string }[] =>
  rowsOf(
    tx,
    { key: text, title: text, mode: text },
    sql`
      select ${keySql('case', 'c.number')} as key, c.title, v.table_mode as mode
      from case_version v
      join test_case c on c.id = v.case_id
      where v.table_id = ${tableId} and v.major is null and c.deleted_at is null
      order by c.number`,
  )

/** Rows that are used up in an environment, or in each. */
export const usedUpRows = (
  tx: Tx,
  tableId: number,
  environmentId: number | null,
): { row: number; environment: string }[] =>
  rowsOf(
    tx,
    { row: int, environment: text },
    sql`
      select distinct u.row_id as "row", e.name as environment
      from data_table_row d
      join data_row_use u on u.row_id = d.id
      join environment e on e.id = u.environment_id
      where d.table_id = ${tableId}
        and u.filled_at is null ${environmentId === null ? sql`` : sql`and u.environment_id = ${environmentId}`}`,
  )

export const useRowUp = (
  tx: Tx,
  of: { readonly rowId: number; readonly environmentId: number; readonly attemptId: number; readonly at: number },
): void => void tx.insert(dataRowUse).values(of).run()

/** Brings the rows of a table back in an environment, or in each; answers how many. */
export const fillUpTable = (tx: Tx, tableId: number, environmentId: number | null, at: number): number =>
  rowsOf(
    tx,
    { id: int },
    sql`
      update data_row_use
      set filled_at = ${at}
      where filled_at is null
        and row_id in (select id from data_table_row where table_id = ${tableId})
        ${environmentId === null ? sql`` : sql`and environment_id = ${environmentId}`}
      returning id`,
  ).length

/** Takes filling up back. */
export const emptyTableAgain = (tx: Tx, tableId: number, filledAt: number): number =>
  rowsOf(
    tx,
    { id: int },
    sql`
      update data_row_use
      set filled_at = null
      where filled_at = ${filledAt} and row_id in (select id from data_table_row where table_id = ${tableId})
      returning id`,
  ).length

/** How many rows of tables that are used up the items would take, and how many are left. */
export interface RowsNeeded {
  readonly table: string
  readonly environment: string
  readonly needed: number
  readonly left: number
}

/** Told of every table and environment the slots need rows in. */
export const rowsNeeded = (
  tx: Tx,
  slots: readonly { readonly case: number; readonly environment: number }[],
): RowsNeeded[] =>
  rowsOf(
    tx,
    { table: text, environment: text, needed: int, left: int },
    sql`
      with asked as (
        select t.id as table_id, s.value ->> 'environment' as environment_id, sum(v.table_mode = 'one') as ones,
          sum(v.table_mode = 'each') as eachs
        from json_each(${JSON.stringify(slots)}) s
        join case_version v on v.case_id = s.value ->> 'case' and v.major is null
        join data_table t on t.id = v.table_id
        where t.used_up and t.deleted_at is null
        group by 1, 2
      ),
      sized as (
        select a.*, (select count(*) from data_table_row d where d.table_id = a.table_id) as "all",
          (
            select count(*)
            from data_table_row d
            where d.table_id = a.table_id
              and d.held_by is null
              and not exists (
                select 1
                from data_row_use u
                where u.row_id = d.id and u.environment_id = a.environment_id and u.filled_at is null
              )
          ) as "left"
        from asked a
      )
      select t.name as "table", e.name as environment, z.ones + z.eachs * z."all" as needed, z."left"
      from sized z
      join data_table t on t.id = z.table_id
      join environment e on e.id = z.environment_id
      order by t.name, e.name`,
  )
