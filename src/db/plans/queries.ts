import { and, eq, sql } from 'drizzle-orm'
import type { PlanRow, PlanSheet, SuiteRow, SuiteSheet } from '#core/plans/contract.ts'
import { caseMinutes } from '#db/cases/queries.ts'
import { inIds, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { plan, planEnvironment, planSuite, suite, suitePin } from './tables.ts'

export type SuiteStored = typeof suite.$inferSelect
export type PlanStored = typeof plan.$inferSelect

const titleSearch = (word: string) => sql`(t.title like ${`%${word.replace(/[\\%_]/g, '\\$&')}%`} escape '\\')`
const pinCount = sql`(select count(*) from suite_pin p join test_case c on c.id = p.case_id where p.suite_id = t.id and c.deleted_at is null)`
export const suiteSource = (projectId: number): ListSource => ({
  id: sql`t.id`,
  from: sql`suite t`,
  where: sql`t.project_id = ${projectId} and t.deleted_at is null`,
  fields: { id: sql`t.id`, number: sql`t.number`, title: sql`t.title`, state: sql`t.state`, cases: pinCount },
  search: titleSearch,
  defaultSort: sql`t.number`,
})
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
  search: titleSearch,
  defaultSort: sql`t.number desc`,
})

const inOrder = <T extends { id: number }>(ids: readonly number[], rows: readonly T[]): T[] => {
  const byId = new Map(rows.map((row) => [row.id, row]))
  return ids.flatMap((id) => byId.get(id) ?? [])
}

export const suiteRows = (tx: Tx, projectId: number, ids: readonly number[]): SuiteRow[] =>
  inOrder(
    ids,
    tx.all<SuiteRow>(sql`
    select t.id, 'TS-' || t.number as key, t.number, t.title, t.objective, t.state, t.version, ${pinCount} as cases,
      coalesce((select sum(${caseMinutes}) from suite_pin p join test_case c on c.id = p.case_id where p.suite_id = t.id and c.deleted_at is null), 0) as minutes
    from suite t where t.project_id = ${projectId} and t.deleted_at is null and ${inIds(sql`t.id`, ids)}`),
  )

export const findSuite = (tx: Tx, projectId: number, number: number): SuiteStored | undefined =>
  tx
    .select()
    .from(suite)
    .where(and(eq(suite.projectId, projectId), eq(suite.number, number)))
    .get()

export const pinnedCases = (tx: Tx, suiteId: number): SuiteSheet['pinned'] =>
  tx.all(
    sql`select c.id, 'TC-' || c.number as key, c.title, c.importance, ${caseMinutes} as minutes from suite_pin p join test_case c on c.id = p.case_id where p.suite_id = ${suiteId} and c.deleted_at is null order by p.position`,
  )

export const plansOfSuite = (tx: Tx, suiteId: number): SuiteSheet['plans'] =>
  tx.all(
    sql`select 'PL-' || p.number as key, p.title from plan_suite s join plan p on p.id = s.plan_id where s.suite_id = ${suiteId} and p.deleted_at is null order by p.number`,
  )

export const addSuite = (
  tx: Tx,
  of: { projectId: number; number: number; title: string; objective?: string; state?: SuiteStored['state'] },
  now: number,
): number =>
  tx
    .insert(suite)
    .values({ ...of, createdAt: now, updatedAt: now })
    .returning({ id: suite.id })
    .get().id

export const saveSuite = (tx: Tx, id: number, edit: Partial<SuiteStored>): void =>
  void tx.update(suite).set(edit).where(eq(suite.id, id)).run()

export function pinToSuite(tx: Tx, suiteId: number, caseIds: readonly number[]): number {
  const last =
    tx.get<{ n: number | null }>(sql`select max(position) as n from suite_pin where suite_id = ${suiteId}`)?.n ?? 0
  const pin = (caseId: number, index: number) =>
    tx
      .insert(suitePin)
      .values({ suiteId, caseId, position: last + index + 1 })
      .onConflictDoNothing()
      .run().changes
  return caseIds.reduce((made, caseId, index) => made + pin(caseId, index), 0)
}
export const unpin = (tx: Tx, suiteId: number, caseIds: readonly number[]): void =>
  void tx.run(sql`delete from suite_pin where suite_id = ${suiteId} and ${inIds(sql`case_id`, caseIds)}`)
export const orderPins = (tx: Tx, suiteId: number, caseIds: readonly number[]): void =>
  caseIds.forEach((caseId, index) =>
    tx
      .update(suitePin)
      .set({ position: index + 1 })
      .where(and(eq(suitePin.suiteId, suiteId), eq(suitePin.caseId, caseId)))
      .run(),
  )

export const planRows = (tx: Tx, projectId: number, ids: readonly number[]): PlanRow[] =>
  inOrder(
    ids,
    tx.all<PlanRow>(sql`
    select t.id, 'PL-' || t.number as key, t.number, t.title, t.objective, t.state, t.version, r.name as "release", i.name as iteration,
      (select count(*) from plan_suite where plan_id = t.id) as suites, (select count(*) from plan_environment where plan_id = t.id) as environments,
      (select count(distinct p.case_id) from plan_suite s join suite_pin p on p.suite_id = s.suite_id join test_case c on c.id = p.case_id where s.plan_id = t.id and c.deleted_at is null) as cases,
      (select count(*) from run where plan_id = t.id and deleted_at is null) as runs
    from plan t join release r on r.id = t.release_id left join iteration i on i.id = t.iteration_id where t.project_id = ${projectId} and t.deleted_at is null and ${inIds(sql`t.id`, ids)}`),
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
  tx.all(
    sql`select t.id, 'TS-' || t.number as key, t.title, ${pinCount} as cases from plan_suite s join suite t on t.id = s.suite_id where s.plan_id = ${planId} and t.deleted_at is null order by s.position`,
  )
export const planEnvironments = (tx: Tx, planId: number): PlanSheet['environmentList'] =>
  tx.all(
    sql`select e.id, e.name from plan_environment p join environment e on e.id = p.environment_id where p.plan_id = ${planId} and e.deleted_at is null order by e.position`,
  )
export const planRuns = (tx: Tx, planId: number): PlanSheet['runList'] =>
  tx.all(sql`select 'RN-' || r.number as key, r.title, r.state, (select count(*) from item where run_id = r.id and deleted_at is null) as items,
    (select count(*) from item where run_id = r.id and deleted_at is null and verdict not in ('Not run', 'In progress')) as done from run r where r.plan_id = ${planId} and r.deleted_at is null order by r.number desc`)
export const planMinutes = (tx: Tx, planId: number): number =>
  tx.get<{ n: number | null }>(
    sql`select sum(${caseMinutes}) as n from test_case c where c.deleted_at is null and c.id in (select p.case_id from plan_suite s join suite_pin p on p.suite_id = s.suite_id where s.plan_id = ${planId})`,
  )?.n ?? 0

/** Live cases of suites, in the suites' order, each once. */
export const casesOfSuites = (tx: Tx, projectId: number, suiteIds: readonly number[]): number[] =>
  tx
    .all<{ id: number }>(
      sql`
    select c.id from suite_pin p join test_case c on c.id = p.case_id join json_each(${JSON.stringify(suiteIds)}) j on j.value = p.suite_id
    where c.project_id = ${projectId} and c.deleted_at is null and c.retired_at is null group by c.id order by min(j.key * 1000000 + p.position)`,
    )
    .map(({ id }) => id)
