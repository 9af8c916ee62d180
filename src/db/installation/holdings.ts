import { sql } from 'drizzle-orm'
import { int, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'

/** How much each project holds. */
export const holdings = (
  tx: Tx,
): { key: string; name: string; requirements: number; cases: number; attempts: number }[] =>
  rowsOf(
    tx,
    { key: text, name: text, requirements: int, cases: int, attempts: int },
    sql`
      select p.key, p.name,
        (select count(*) from requirement r where r.project_id = p.id and r.deleted_at is null) as requirements,
        (select count(*) from test_case c where c.project_id = p.id and c.deleted_at is null) as cases,
        (select count(*) from attempt a where a.project_id = p.id) as attempts
      from project p
      order by p.key`,
  )
