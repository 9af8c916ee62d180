import { sql } from 'drizzle-orm'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, rowsOf, text } from '#db/rows.ts'
import { spoiledBy, withPolicy } from './spoiled.ts'

/** Items of a run whose case is in quarantine there, with the key of the case. */
export const quarantinedIn = (tx: Tx, runId: number): Map<number, string> =>
  new Map(
    rowsOf(
      tx,
      { id: int, case: text },
      sql`
        select i.id, ${keySql('case', 'c.number')} as "case"
        from quarantine q
        join item i on i.case_id = q.case_id
        join test_case c on c.id = i.case_id
        where i.run_id = ${runId}
          and i.deleted_at is null
          and q.until_at is null
          and (q.environment_id is null or q.environment_id = i.environment_id)`,
    ).map(({ id, case: own }) => [id, own]),
  )

/** Items of a run whose result counts as still to be done. */
export const spoiledItems = (tx: Tx, runId: number): Set<number> =>
  new Set(
    rowsOf(
      tx,
      { id: int },
      sql`
        select i.id
        from item i
        join run u on u.id = i.run_id
        ${withPolicy}
        join test_case c on c.id = i.case_id
        where i.run_id = ${runId} and i.deleted_at is null and ${spoiledBy} is not null`,
    ).map(({ id }) => id),
  )

/** How many items of a run were given a verdict in which of the project's own words. */
export const wordsIn = (tx: Tx, runId: number): Record<string, number> =>
  Object.fromEntries(
    rowsOf(
      tx,
      { word: text, n: int },
      sql`
        select a.word, count(*) as n
        from item i
        join attempt a on a.id = i.attempt_id
        where i.run_id = ${runId} and i.deleted_at is null and a.word is not null
        group by 1
        order by 1`,
    ).map(({ word, n }) => [word, n]),
  )
