import { type Verdict, verdicts } from '#core/lib/verdict.ts'
import { sql } from 'drizzle-orm'
import { inIds } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
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

/** Which verdicts the items of a run have, each once, some items left aside; a result that counts as still to be done is none. */
export const verdictsIn = (tx: Tx, runId: number, aside: readonly number[]): Verdict[] =>
  rowsOf(
    tx,
    { verdict: oneOf(verdicts) },
    sql`
      select distinct iif(${spoiledBy} is null, i.verdict, 'Not run') as verdict
      from item i
      join run u on u.id = i.run_id
      ${withPolicy}
      join test_case c on c.id = i.case_id
      where i.run_id = ${runId} and i.deleted_at is null and not ${inIds(sql`i.id`, aside)}`,
  ).map(({ verdict }) => verdict)

/** The cases of a run. */
export const casesIn = (tx: Tx, runId: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`select distinct case_id as id from item where run_id = ${runId} and deleted_at is null`,
  ).map(({ id }) => id)

/** How many items of a run are still to be executed and nobody's. */
export const unassignedIn = (tx: Tx, runId: number): number =>
  rowOf(
    tx,
    { n: int },
    sql`
      select count(*) as n
      from item
      where run_id = ${runId} and deleted_at is null and assignee_id is null and verdict = 'Not run'`,
  )?.n ?? 0

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
