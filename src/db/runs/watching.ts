import { sql } from 'drizzle-orm'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { isOpenVerdict } from '#db/rules.ts'
import { itemMinutes } from './items.ts'

/** Attempts of a run that were begun and are not final, with when something was last said in each. */
export const attemptsGoing = (
  tx: Tx,
  runId: number,
): {
  item: number
  case: string
  title: string
  environment: string
  person: string | null
  since: number
  last: number
  planned: number
}[] =>
  rowsOf(
    tx,
    {
      item: int,
      case: text,
      title: text,
      environment: text,
      person: maybe(text),
      since: int,
      last: int,
      planned: int,
    },
    sql`
      select i.id as item, ${keySql('case', 'c.number')} as "case", c.title, e.name as environment, p.name as person,
        a.started_at as since,
        max(
          a.started_at,
          coalesce((select max(v.at) from verdict_event v where v.attempt_id = a.id), 0),
          coalesce((select max(s.at) from attempt_step s where s.attempt_id = a.id), 0)
        ) as last,
        ${itemMinutes} as planned
      from item i
      join attempt a on a.id = i.attempt_id
      join test_case c on c.id = i.case_id
      join environment e on e.id = i.environment_id
      left join person p on p.id = a.person_id
      where i.run_id = ${runId} and i.deleted_at is null and a.final = 0 and a.struck is null
      order by last`,
  )

/** Items due by a day, those with a result, and the minutes of those that were timed. */
export const workOf = (
  tx: Tx,
  runId: number,
  today: string,
): { of: number; done: number; planned: number; spent: number; shared: number; timed: number } => {
  const [due, done, timed] = [
    sql`coalesce(i.due_on, u.end_on) <= ${today}`,
    sql`not (${isOpenVerdict('i.verdict')})`,
    sql`(not (${isOpenVerdict('i.verdict')}) and a.seconds > 0)`,
  ]
  return (
    rowOf(
      tx,
      { of: int, done: int, planned: int, spent: int, shared: int, timed: int },
      sql`
        select coalesce(sum(${due}), 0) as "of", coalesce(sum(${due} and ${done}), 0) as done,
          coalesce(sum(${timed} * ${itemMinutes}), 0) as planned,
          cast(coalesce(round(sum(${timed} * a.seconds) / 60.0), 0) as integer) as spent,
          cast(coalesce(round(sum(${timed} * (a.timing = 'shared') * a.seconds) / 60.0), 0) as integer) as shared,
          coalesce(sum(${timed}), 0) as timed
        from item i
        join run u on u.id = i.run_id
        join test_case c on c.id = i.case_id
        left join attempt a on a.id = i.attempt_id
        where i.run_id = ${runId} and i.deleted_at is null`,
    ) ?? { of: 0, done: 0, planned: 0, spent: 0, shared: 0, timed: 0 }
  )
}
