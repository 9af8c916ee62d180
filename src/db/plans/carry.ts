import { sql } from 'drizzle-orm'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'

/** Requirements each case ever proved: whether it still proves one that is there, and when that was last worded anew. */
export const basisOfCases = (
  tx: Tx,
  projectId: number,
): { case: number; requirement: number; live: boolean; changedAt: number }[] =>
  rowsOf(
    tx,
    { case: int, requirement: int, live: int, changedAt: int },
    sql`
      select l.case_id as "case", l.requirement_id as requirement,
        max(l.until_at is null and r.deleted_at is null and r.state <> 'Dropped') as live,
        coalesce(
          (select max(v.at) from requirement_revision v where v.requirement_id = l.requirement_id and v.revision > 1),
          0
        ) as changedAt
      from link l
      join requirement r on r.id = l.requirement_id
      where l.project_id = ${projectId}
      group by l.case_id, l.requirement_id`,
  ).map((row) => ({ ...row, live: row.live === 1 }))

/** Cases that were once in a suite of a plan and are retired or deleted now. */
export const retiredOfPlan = (tx: Tx, planId: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      with held(id) as (
        select m.case_id
        from plan_suite s
        join suite_member m on m.suite_id = s.suite_id
        where s.plan_id = ${planId}
        union
        select p.case_id
        from plan_suite s
        join suite_pin p on p.suite_id = s.suite_id
        where s.plan_id = ${planId}
      )
      select c.id
      from held
      join test_case c on c.id = held.id
      where c.retired_at is not null or c.deleted_at is not null
      order by c.number`,
  ).map(({ id }) => id)

/**
 * Requirements at the ends of the outline that are new since a plan and that no live case proves: made after it, or testable from
 * a later release alone.
 */
export const uncoveredSince = (
  tx: Tx,
  { id, projectId, createdAt }: { readonly id: number; readonly projectId: number; readonly createdAt: number },
): { id: number; key: string; title: string; risk: number | null }[] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text, risk: maybe(int) },
    sql`
      select r.id, ${keySql('requirement', 'r.number')} as key, r.title, r.likelihood * r.impact as risk
      from requirement r
      where r.project_id = ${projectId}
        and r.deleted_at is null
        and r.state <> 'Dropped'
        and not exists (select 1 from requirement c where c.parent_id = r.id and c.deleted_at is null)
        and (
          r.created_at > ${createdAt}
          or (
            exists (select 1 from requirement_target t where t.requirement_id = r.id)
            and not exists (
              select 1
              from requirement_target t
              join release e on e.id = t.release_id
              where t.requirement_id = r.id
                and e.position <= (
                  select o.position from plan l join release o on o.id = l.release_id where l.id = ${id}
                )
            )
          )
        )
        and not exists (
          select 1
          from link l
          join test_case c on c.id = l.case_id
          where l.requirement_id = r.id and l.until_at is null and c.deleted_at is null and c.retired_at is null
        )
      order by r.likelihood * r.impact desc, r.number
      limit 500`,
  )

/** Which cases each suite of a plan holds, in the order of the plan. */
export const suitesWithCases = (tx: Tx, planId: number): { suite: number; title: string; case: number }[] =>
  rowsOf(
    tx,
    { suite: int, title: text, case: int },
    sql`
      select u.id as suite, u.title, m.case_id as "case"
      from plan_suite s
      join suite u on u.id = s.suite_id
      join suite_member m on m.suite_id = u.id
      left join suite_place p on p.suite_id = u.id and p.case_id = m.case_id
      where s.plan_id = ${planId} and m.until_at is null and u.deleted_at is null
      order by s.position, p.position nulls last, m.id`,
  )

/** Suites of a plan that was carried over that were made with it, for it alone. */
export const suitesMadeWith = (tx: Tx, planId: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select u.id
      from plan l
      join plan_suite s on s.plan_id = l.id
      join suite u on u.id = s.suite_id
      where l.id = ${planId}
        and u.created_at = l.created_at
        and exists (
          select 1 from change h where h.kind = 'plan' and h.owner_id = l.id and h.action = 'carried over'
        )
        and not exists (
          select 1
          from plan_suite o
          join plan q on q.id = o.plan_id
          where o.suite_id = u.id and o.plan_id <> l.id and q.deleted_at is null
        )`,
  ).map(({ id }) => id)
