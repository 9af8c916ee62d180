import { sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'

/** Of a sample project: what was closed was closed so long, in ms, after its last result. */
export const closeSampleRuns = (tx: Tx, projectId: number, after: number): void =>
  void tx.run(sql`
    update run
    set closed_at = (
      select max(a.finished_at) + ${after}
      from item i
      join attempt a on a.id = i.attempt_id
      where i.run_id = run.id
    )
    where project_id = ${projectId} and state = 'Closed'`)

/** Of a sample project: why everything that was blocked was blocked. */
export const giveSampleReason = (tx: Tx, projectId: number, reason: string): void =>
  void tx.run(sql`
    update attempt
    set reason = ${reason}
    where project_id = ${projectId} and verdict = 'Blocked'`)

/** The newest attempts of a run that a person passed without a word. */
export const passedInRun = (tx: Tx, runId: number, most: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select a.id
      from item i
      join attempt a on a.id = i.attempt_id
      where i.run_id = ${runId} and a.verdict = 'Passed' and a.by_machine = 0 and a.comment = ''
      order by a.finished_at desc
      limit ${most}`,
  ).map(({ id }) => id)

/** The first step of a closed run of which nobody could say what it was. */
export const unclearStep = (
  tx: Tx,
  runId: number,
): { attempt: number; row: number; step: number; closedAt: number } | undefined =>
  rowOf(
    tx,
    { attempt: int, row: int, step: int, closedAt: int },
    sql`
      select a.id as attempt, s."row", s.step_id as step, r.closed_at as closedAt
      from item i
      join run r on r.id = i.run_id
      join attempt a on a.id = i.attempt_id
      join attempt_step s on s.attempt_id = a.id and s.verdict = 'Inconclusive'
      where i.run_id = ${runId} and a.verdict = 'Inconclusive'
      order by i.position
      limit 1`,
  )

/** Items of a run that nobody has begun, each with a defect its case is linked to where one is in such a state, those first. */
export const itemsToExecute = (
  tx: Tx,
  runId: number,
  states: readonly string[],
): { item: number; case: number; environment: number; person: string | null; defect: number | null }[] =>
  rowsOf(
    tx,
    { item: int, case: int, environment: int, person: maybe(text), defect: maybe(int) },
    sql`
      select i.id as item, i.case_id as "case", i.environment_id as environment, i.assignee_id as person,
        (
          select min(d.id)
          from defect_link l
          join defect d on d.id = l.defect_id
          where l.case_id = i.case_id
            and l.until_at is null
            and d.deleted_at is null
            and d.state in (select value from json_each(${JSON.stringify(states)}))
        ) as defect
      from item i
      where i.run_id = ${runId} and i.deleted_at is null and i.verdict = 'Not run'
      order by defect is null, i.position`,
  )
