import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { planStates } from '#core/plans/state.ts'
import { isOpenVerdict } from '#db/rules.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, type SQL, sql } from 'drizzle-orm'
import type { PlanRow, PlanSheet } from '#core/plans/contract.ts'
import { caseMinutes } from '#db/cases/list.ts'
import { inOrder } from '#core/lib/in-order.ts'
import { contains } from '#db/finding/contains.ts'
import { inIds, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { memberCount } from './suites.ts'
import { plan, planEnvironment, planSuite } from './tables.ts'

export type PlanStored = typeof plan.$inferSelect
export const planSource = (projectId: number): ListSource => ({
  id: sql`t.id`,
  from: sql`plan t`,
  where: sql`t.project_id = ${projectId} and t.deleted_at is null`,
  fields: {
    id: sql`t.id`,
    number: sql`t.number`,
    title: sql`t.title`,
    state: sql`t.state`,
    release: sql`(select name from release where id = t.release_id)`,
  },
  search: (word) => contains(sql`t.title`, word),
  defaultSort: sql`t.number desc`,
})

/** Ids of the cases of a plan: who is in its suites as it was last written down, or who was in when it was frozen. */
const casesOfPlan = (plan: SQL, frozen: SQL): SQL => sql`
  select m.case_id
  from plan_suite s
  join suite u on u.id = s.suite_id
  join suite_member m on m.suite_id = s.suite_id
  where s.plan_id = ${plan} and u.deleted_at is null and m.until_at is null and ${frozen} is null
  union
  select case_id
  from plan_version_slot
  where version_id = ${frozen}`

export const planRows = (tx: Tx, projectId: number, ids: readonly number[]): PlanRow[] =>
  inOrder(
    ids,
    rowsOf(
      tx,
      {
        id: int,
        key: text,
        number: int,
        title: text,
        objective: text,
        state: oneOf(planStates),
        release: text,
        iteration: maybe(text),
        suites: int,
        cases: int,
        environments: int,
        runs: int,
        version: int,
      },
      sql`
        select t.id, ${keySql('plan', 't.number')} as key, t.number, t.title, t.objective, t.state, t.version,
          r.name as "release", i.name as iteration,
          (select count(*) from plan_suite where plan_id = t.id) as suites,
          (select count(*) from plan_environment where plan_id = t.id) as environments,
          (select count(*) from (${casesOfPlan(sql`t.id`, sql`t.frozen_version_id`)})) as cases,
          (select count(*) from run where plan_id = t.id and deleted_at is null) as runs
        from plan t
        join release r on r.id = t.release_id
        left join iteration i on i.id = t.iteration_id
        where t.project_id = ${projectId} and t.deleted_at is null and ${inIds(sql`t.id`, ids)}`,
    ),
  )

export const findPlan = (tx: Tx, projectId: number, number: number): PlanStored | undefined =>
  tx
    .select()
    .from(plan)
    .where(and(eq(plan.projectId, projectId), eq(plan.number, number)))
    .get()
export const planById = (tx: Tx, projectId: number, id: number): PlanStored | undefined =>
  tx
    .select()
    .from(plan)
    .where(and(eq(plan.projectId, projectId), eq(plan.id, id)))
    .get()

export const addPlan = (
  tx: Tx,
  of: Pick<PlanStored, 'projectId' | 'number' | 'title' | 'releaseId'> & Partial<PlanStored>,
  now: number,
): number =>
  tx
    .insert(plan)
    .values({ ...of, createdAt: now, updatedAt: now })
    .returning({ id: plan.id })
    .get().id
export const savePlan = (tx: Tx, id: number, edit: Partial<PlanStored>): void =>
  void tx.update(plan).set(edit).where(eq(plan.id, id)).run()

export function setPlanSuites(tx: Tx, planId: number, suites: readonly number[]): void {
  tx.delete(planSuite).where(eq(planSuite.planId, planId)).run()
  suites.forEach((suiteId, index) =>
    tx
      .insert(planSuite)
      .values({ planId, suiteId, position: index + 1 })
      .run(),
  )
}
export function setPlanEnvironments(tx: Tx, planId: number, environments: readonly number[]): void {
  tx.delete(planEnvironment).where(eq(planEnvironment.planId, planId)).run()
  for (const environmentId of environments) tx.insert(planEnvironment).values({ planId, environmentId }).run()
}
export const planSuites = (tx: Tx, planId: number): PlanSheet['suiteList'] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text, cases: int },
    sql`
      select t.id, ${keySql('suite', 't.number')} as key, t.title, ${memberCount} as cases
      from plan_suite s
      join suite t on t.id = s.suite_id
      where s.plan_id = ${planId} and t.deleted_at is null
      order by s.position`,
  )
export const planEnvironments = (tx: Tx, planId: number): PlanSheet['environmentList'] =>
  rowsOf(
    tx,
    { id: int, name: text },
    sql`
      select e.id, e.name
      from plan_environment p
      join environment e on e.id = p.environment_id
      where p.plan_id = ${planId} and e.deleted_at is null
      order by e.position`,
  )
export const planRuns = (tx: Tx, planId: number): PlanSheet['runList'] =>
  rowsOf(
    tx,
    { key: text, title: text, state: text, items: int, done: int },
    sql`
      select ${keySql('run', 'r.number')} as key, r.title, r.state,
        (select count(*) from item where run_id = r.id and deleted_at is null) as items,
        (
          select count(*)
          from item
          where run_id = r.id and deleted_at is null and not ${isOpenVerdict('verdict')}
        ) as done
      from run r
      where r.plan_id = ${planId} and r.deleted_at is null
      order by r.number desc`,
  )
export const planMinutes = (tx: Tx, planId: number): number =>
  rowOf(
    tx,
    { n: maybe(int) },
    sql`
      select sum(${caseMinutes}) as n
      from test_case c
      where c.deleted_at is null
        and c.id in (
          ${casesOfPlan(sql`${planId}`, sql`(select frozen_version_id from plan where id = ${planId})`)}
        )`,
  )?.n ?? 0
