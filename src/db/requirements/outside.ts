import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { keySql } from '#db/key-sql.ts'
import { sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'

export const byOutsideRef = (tx: Tx, projectId: number, refs: readonly string[]): Map<string, string> =>
  new Map(
    rowsOf(
      tx,
      { ref: text, key: text },
      sql`
        select outside_ref as ref, ${keySql('requirement', 'number')} as key
        from requirement
        where project_id = ${projectId}
          and deleted_at is null
          and outside_ref in (select value from json_each(${JSON.stringify(refs)}))`,
    ).map(({ ref, key }) => [ref, key]),
  )
export const outsideReferences = (
  tx: Tx,
  projectKey: string,
): { ref: string; title: string; text: string; owner: string | null; state: string; at: number }[] =>
  rowsOf(
    tx,
    { ref: text, title: text, text: text, owner: maybe(text), state: text, at: int },
    sql`
      select r.outside_ref as ref, r.title, r.text, p.name as owner, r.state, r.created_at as at
      from requirement r
      join project j on j.id = r.project_id
      left join person p on p.id = r.owner_id
      where j.key = ${projectKey} and r.outside_ref <> '' and r.deleted_at is null
      order by r.number`,
  )
