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
  const ids = JSON.stringify(missing.ids.slice(0, most))
  switch (missing.of) {
    case 'requirements':
      return rowsOf(
        tx,
        shape,
        sql`
          select ${keySql('requirement', 'r.number')} as key, r.title,
            coalesce('risk ' || (r.likelihood * r.impact), 'risk not given') as detail
          from json_each(${ids}) j
          join requirement r on r.id = j.value
          order by j.key`,
      )
    case 'cases':
      return rowsOf(
        tx,
        shape,
        sql`
          select ${keySql('case', 'c.number')} as key, c.title, c.state as detail
          from json_each(${ids}) j
          join test_case c on c.id = j.value
          order by j.key`,
      )
    case 'defects':
      return rowsOf(
        tx,
        shape,
        sql`
          select ${keySql('defect', 'd.number')} as key, d.title, d.severity || ', ' || d.state as detail
          from json_each(${ids}) j
          join defect d on d.id = j.value
          order by j.key`,
      )
    case 'runs':
      return rowsOf(
        tx,
        shape,
        sql`
          select ${keySql('run', 'r.number')} as key, r.title, r.state as detail
          from json_each(${ids}) j
          join run r on r.id = j.value
          order by j.key`,
      )
  }
}
