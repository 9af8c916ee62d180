import { sql, type SQL } from 'drizzle-orm'
import type { NamedId, Owned } from '#core/lib/owned.ts'
import type { Tx } from '#db/open.ts'
import { int, rowsOf } from '#db/rows.ts'

/** What belongs to a project by way of another table: which, and the column that names it. */
const through: Partial<Record<Owned, { readonly owner: string; readonly column: string }>> = {
  case_version: { owner: 'test_case', column: 'case_id' },
  data_table_row: { owner: 'data_table', column: 'table_id' },
  item: { owner: 'run', column: 'run_id' },
  iteration: { owner: 'release', column: 'release_id' },
  routine_version: { owner: 'routine', column: 'routine_id' },
  step: { owner: 'test_case', column: 'case_id' },
  what_if: { owner: 'run', column: 'run_id' },
}

/** Whether `id` is a row of `of` that belongs to the project. */
function isOwn(projectId: number, of: NamedId['of'], id: SQL): SQL {
  if (of === 'person')
    return sql`exists (select 1 from membership where project_id = ${projectId} and person_id = ${id})`
  const way = through[of]
  return way
    ? sql`exists (
        select 1 from ${sql.identifier(of)} own
        join ${sql.identifier(way.owner)} owner on owner.id = own.${sql.identifier(way.column)}
        where own.id = ${id} and owner.project_id = ${projectId}
      )`
    : sql`exists (select 1 from ${sql.identifier(of)} own where own.id = ${id} and own.project_id = ${projectId})`
}

/** Those of `named`, all of one kind, that are not of this project; the first twenty. */
export function foreignAmong(tx: Tx, projectId: number, named: readonly NamedId[]): NamedId[] {
  const [first] = named
  if (!first) return []
  const ids = JSON.stringify(named.map(({ id }) => id))
  return rowsOf(
    tx,
    { at: int },
    sql`
      select each.key as at
      from json_each(${ids}) each
      where not ${isOwn(projectId, first.of, sql`each.value`)}
      order by each.key
      limit 20`,
  ).flatMap(({ at }) => named[at] ?? [])
}
