import { sql } from 'drizzle-orm'
import type { Missing } from '#core/plans/criteria.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { rowsOf, text } from '#db/rows.ts'

interface MissingRow {
  readonly key: string
  readonly title: string
  readonly detail: string
}
const shape = { key: text, title: text, detail: text }

/** The first objects that a criterion misses, to be read. */
export function missingRows(tx: Tx, missing: Missing, most: number): MissingRow[] {
  if (missing.of === 'slots') {
    const slots = missing.slots.slice(0, most).map((slot) => [slot.case, slot.environment])
    return rowsOf(
      tx,
      shape,
      sql`
        select ${keySql('case', 'c.number')} as key, c.title, coalesce(e.name, '') as detail
        from json_each(${JSON.stringify(slots)}) j
        join test_case c on c.id = j.value ->> 0
        left join environment e on e.id = j.value ->> 1
        order by j.key`,
    )
  }
  const { table, kind, detail } = columns[missing.of]
  return rowsOf(
    tx,
    shape,
    sql`
      select ${keySql(kind, 'o.number')} as key, o.title, ${detail} as detail
      from json_each(${JSON.stringify(missing.ids.slice(0, most))}) j
      join ${sql.identifier(table)} o on o.id = j.value
      order by j.key`,
  )
}

const columns = {
  requirements: {
    table: 'requirement',
    kind: 'requirement',
    detail: sql`coalesce('risk ' || (o.likelihood * o.impact), 'risk not given')`,
  },
  cases: { table: 'test_case', kind: 'case', detail: sql`o.state` },
  defects: { table: 'defect', kind: 'defect', detail: sql`o.severity || ', ' || o.state` },
  runs: { table: 'run', kind: 'run', detail: sql`o.state` },
} as const
