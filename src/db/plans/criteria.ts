import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import { criterionRule, type CriterionRule, type CriterionSide } from '#core/plans/criteria.ts'
import { importances, type Importance } from '#core/cases/case.ts'
import { type Severity, severities } from '#core/defects/state.ts'
import { caseMinutes } from '#db/cases/list.ts'
import { keySql } from '#db/key-sql.ts'
import { numbersIn } from '#db/json.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { isLiveCase, isOpenDefect } from '#db/rules.ts'
import { planStates } from '#core/plans/state.ts'
import { planBranch, planCriterion } from './tables.ts'

export interface CriterionStored {
  readonly id: number
  readonly planId: number
  readonly side: CriterionSide
  readonly position: number
  readonly rule: CriterionRule
  readonly waivedBy: string | null
  readonly waivedAt: number | null
  readonly waivedReason: string
  readonly waivedUntil: string | null
}

type Stored = typeof planCriterion.$inferSelect
const read = ({ rule, deletedAt: _, projectId: __, ...row }: Stored): CriterionStored => ({
  ...row,
  rule: criterionRule.parse(JSON.parse(rule)),
})

/** Criteria of a plan in their order. */
export const criteriaOf = (tx: Tx, planId: number): CriterionStored[] =>
  tx
    .select()
    .from(planCriterion)
    .where(and(eq(planCriterion.planId, planId), isNull(planCriterion.deletedAt)))
    .orderBy(asc(planCriterion.position), asc(planCriterion.id))
    .all()
    .map(read)

/** A criterion of the plan, also one that was taken away. */
export function findCriterion(
  tx: Tx,
  planId: number,
  id: number,
): (CriterionStored & { deletedAt: number | null }) | undefined {
  const row = tx
    .select()
    .from(planCriterion)
    .where(and(eq(planCriterion.planId, planId), eq(planCriterion.id, id)))
    .get()
  return row && { ...read(row), deletedAt: row.deletedAt }
}

export function addCriterionTo(
  tx: Tx,
  of: {
    readonly projectId: number
    readonly planId: number
    readonly side: CriterionSide
    readonly rule: CriterionRule
  },
): number {
  const last =
    rowOf(tx, { n: maybe(int) }, sql`select max(position) as n from plan_criterion where plan_id = ${of.planId}`)?.n ??
    0
  return tx
    .insert(planCriterion)
    .values({ ...of, rule: JSON.stringify(of.rule), position: last + 1 })
    .returning({ id: planCriterion.id })
    .get().id
}

export const saveCriterion = (
  tx: Tx,
  id: number,
  edit: Partial<Omit<Stored, 'rule'>> & { rule?: CriterionRule },
): void => {
  const { rule, ...rest } = edit
  tx.update(planCriterion)
    .set({ ...rest, ...(rule && { rule: JSON.stringify(rule) }) })
    .where(eq(planCriterion.id, id))
    .run()
}

/** Branches a plan is about and leaves out; `null` when it says nothing of them. */
export function planBranches(tx: Tx, planId: number): { inside: number[]; outside: number[] } | null {
  const rows = tx.select().from(planBranch).where(eq(planBranch.planId, planId)).all()
  if (rows.length === 0) return null
  const ids = (inside: boolean) => rows.filter((row) => row.inside === inside).map((row) => row.requirementId)
  return { inside: ids(true), outside: ids(false) }
}

/** Plans that speak for a scope: those of the iteration where it has any, else those of the whole release. Closed ones do not. */
export function plansFor(
  tx: Tx,
  of: { readonly projectId: number; readonly release: number; readonly iteration: number | null },
) {
  const all = rowsOf(
    tx,
    { id: int, key: text, title: text, state: oneOf(planStates), iteration: maybe(int) },
    sql`
      select id, ${keySql('plan', 'number')} as key, title, state, iteration_id as iteration
      from plan
      where project_id = ${of.projectId} and release_id = ${of.release} and deleted_at is null and state <> 'Closed'
      order by number`,
  )
  const own = of.iteration === null ? [] : all.filter(({ iteration }) => iteration === of.iteration)
  return own.length > 0 ? own : all.filter(({ iteration }) => iteration === null)
}

export interface CaseWeight {
  readonly id: number
  readonly importance: Importance
  readonly approved: boolean
}

/** Importance and approval of all live cases; as columns, for fifty thousand rows take several times longer. */
export function caseWeights(tx: Tx, projectId: number): CaseWeight[] {
  const told = rowOf(
    tx,
    { ids: text, importance: text, approved: text },
    sql`
      select json_group_array(c.id) as ids,
        json_group_array(
          case c.importance when 'Critical' then 0 when 'High' then 1 when 'Medium' then 2 else 3 end
        ) as importance,
        json_group_array(c.state = 'Approved') as approved
      from test_case c
      where c.project_id = ${projectId} and ${isLiveCase('c')} and (c.steps > 0 or c.automation = 'Automated')`,
  )
  const [ranks, approved] = [numbersIn(told?.importance ?? ''), numbersIn(told?.approved ?? '')]
  return numbersIn(told?.ids ?? '').map((id, at) => ({
    id,
    importance: importances[ranks[at] ?? 3] ?? 'Low',
    approved: approved[at] === 1,
  }))
}

/** Defects that were open at an instant, or are now, and were not found in a later release. */
export const openDefects = (
  tx: Tx,
  projectId: number,
  { asOf, release }: { readonly asOf: number | null; readonly release: number | null },
): { id: number; severity: Severity }[] => {
  const state =
    asOf === null
      ? sql`d.state`
      : sql`
        (select s.state from defect_state_at s where s.defect_id = d.id and s.at <= ${asOf} order by s.at desc, s.id desc limit 1)`
  return rowsOf(
    tx,
    { id: int, severity: oneOf(severities) },
    sql`
      select d.id, d.severity
      from (
        select d.id, d.severity, d.found_in_build_id, d.number, ${state} as now
        from defect d
        where d.project_id = ${projectId} and d.deleted_at is null ${asOf === null ? sql`` : sql`and d.created_at <= ${asOf}`}
      ) d
      left join build b on b.id = d.found_in_build_id
      left join release r on r.id = b.release_id
      where d.now is not null
        and ${isOpenDefect('d.now')}
        and (${release} is null or r.position is null or r.position <= (select position from release where id = ${release}))
      order by case d.severity when 'Critical' then 0 when 'Major' then 1 when 'Minor' then 2 else 3 end, d.number`,
  )
}

/** Runs of a release that were open at an instant, or are now. */
export const openRuns = (
  tx: Tx,
  projectId: number,
  { asOf, release }: { readonly asOf: number | null; readonly release: number | null },
): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select id
      from run
      where project_id = ${projectId}
        and deleted_at is null
        and (${release} is null or release_id = ${release})
        and ${
          asOf === null
            ? sql`state = 'Open'`
            : sql`state <> 'Planned' and created_at <= ${asOf} and (closed_at is null or closed_at > ${asOf})`
        }
      order by number`,
  ).map(({ id }) => id)

/** How long each live case takes. */
export function caseMinutesOf(tx: Tx, projectId: number): [id: number, minutes: number][] {
  const told = rowOf(
    tx,
    { ids: text, minutes: text },
    sql`
      select json_group_array(c.id) as ids, json_group_array(${caseMinutes}) as minutes
      from test_case c
      where c.project_id = ${projectId} and ${isLiveCase('c')}`,
  )
  const minutes = numbersIn(told?.minutes ?? '')
  return numbersIn(told?.ids ?? '').map((id, at) => [id, minutes[at] ?? 0])
}
