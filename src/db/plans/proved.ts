import { type SQL, sql } from 'drizzle-orm'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'

const named = { id: int, key: text, title: text }

/** Requirements that cases of a suite prove, with how many of them do. */
export const provedBySuite = (tx: Tx, suiteId: number): { id: number; key: string; title: string; cases: number }[] =>
  rowsOf(
    tx,
    { ...named, cases: int },
    sql`
      select r.id, ${keySql('requirement', 'r.number')} as key, r.title, count(distinct m.case_id) as cases
      from suite_member m
      join link l on l.case_id = m.case_id
      join requirement r on r.id = l.requirement_id
      where m.suite_id = ${suiteId}
        and m.until_at is null
        and l.until_at is null
        and r.deleted_at is null
        and r.state <> 'Dropped'
      group by r.id
      order by r.likelihood * r.impact desc, r.number
      limit 500`,
  )

/** Requirements at the ends of the outline that are testable in the releases of a suite's plans, and that no suite of these plans proves. */
export const missingOfPlans = (tx: Tx, projectId: number, suiteId: number): Unproved[] =>
  unprovedBy(
    tx,
    projectId,
    sql`
      select p.id, e.position
      from plan_suite s
      join plan p on p.id = s.plan_id
      join release e on e.id = p.release_id
      where s.suite_id = ${suiteId} and p.deleted_at is null and p.state <> 'Closed'`,
  )

/** The same of one plan. */
export const missingOfPlan = (tx: Tx, projectId: number, planId: number): Unproved[] =>
  unprovedBy(
    tx,
    projectId,
    sql`select p.id, e.position from plan p join release e on e.id = p.release_id where p.id = ${planId}`,
  )

interface Unproved {
  readonly id: number
  readonly key: string
  readonly title: string
  readonly risk: number | null
}

const unprovedBy = (tx: Tx, projectId: number, plans: SQL): Unproved[] =>
  rowsOf(
    tx,
    { ...named, risk: maybe(int) },
    sql`
      with asked as (${plans})
      select r.id, ${keySql('requirement', 'r.number')} as key, r.title, r.likelihood * r.impact as risk
      from requirement r
      where r.project_id = ${projectId}
        and r.deleted_at is null
        and r.state <> 'Dropped'
        and exists (select 1 from asked)
        and not exists (select 1 from requirement c where c.parent_id = r.id and c.deleted_at is null)
        and (
          not exists (select 1 from requirement_target t where t.requirement_id = r.id)
          or exists (
            select 1
            from requirement_target t
            join release e on e.id = t.release_id
            join asked a on e.position <= a.position
            where t.requirement_id = r.id
          )
        )
        and r.id not in (
          select l.requirement_id
          from asked a
          join plan_suite s on s.plan_id = a.id
          join suite u on u.id = s.suite_id
          join suite_member m on m.suite_id = s.suite_id
          join link l on l.case_id = m.case_id
          where m.until_at is null and l.until_at is null and u.deleted_at is null
        )
      order by r.likelihood * r.impact desc nulls first, r.number
      limit 500`,
  )
