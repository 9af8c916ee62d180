import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { PlanSheet } from '#core/plans/contract.ts'
import { type PlanPart, planParts } from '#core/plans/state.ts'
import { groupBy } from '#core/lib/group.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { planBranch, planMilestone, planPart, planPerson, planRisk, planRiskAnswer } from './tables.ts'

export function partsOf(tx: Tx, planId: number): Record<PlanPart, string> {
  const said = new Map(
    tx
      .select()
      .from(planPart)
      .where(eq(planPart.planId, planId))
      .all()
      .map((row) => [row.part, row.text]),
  )
  return Object.fromEntries(planParts.map((part) => [part, said.get(part) ?? ''])) as Record<PlanPart, string>
}

export function savePart(tx: Tx, planId: number, part: PlanPart, words: string): void {
  tx.insert(planPart)
    .values({ planId, part, text: words })
    .onConflictDoUpdate({ target: [planPart.planId, planPart.part], set: { text: words } })
    .run()
}

/** Risks, the greatest first, each with what answers it. */
export function risksOf(tx: Tx, planId: number): PlanSheet['risks'] {
  const answers = groupBy(
    rowsOf(
      tx,
      { risk: int, requirement: maybe(int), case: maybe(int), key: text, title: text },
      sql`
        select a.risk_id as risk, a.requirement_id as requirement, a.case_id as "case",
          coalesce(${keySql('requirement', 'r.number')}, ${keySql('case', 'c.number')}) as key,
          coalesce(r.title, c.title) as title
        from plan_risk_answer a
        join plan_risk k on k.id = a.risk_id
        left join requirement r on r.id = a.requirement_id and r.deleted_at is null
        left join test_case c on c.id = a.case_id and c.deleted_at is null
        where k.plan_id = ${planId} and k.deleted_at is null and (r.id is not null or c.id is not null)
        order by a.id`,
    ),
    ({ risk }) => risk,
  )
  return tx
    .select()
    .from(planRisk)
    .where(and(eq(planRisk.planId, planId), isNull(planRisk.deletedAt)))
    .orderBy(asc(planRisk.position))
    .all()
    .map(({ id, title, likelihood, impact }) => ({
      id,
      title,
      likelihood,
      impact,
      answers: (answers.get(id) ?? []).map((each) => ({
        kind: each.requirement === null ? ('case' as const) : ('requirement' as const),
        id: each.requirement ?? each.case ?? 0,
        key: each.key,
        title: each.title,
      })),
    }))
    .sort((a, b) => b.likelihood * b.impact - a.likelihood * a.impact)
}

export interface RiskSaid {
  readonly title: string
  readonly likelihood: number
  readonly impact: number
  readonly requirements: readonly number[]
  readonly cases: readonly number[]
}

/** The risks of a plan anew; those before stay in the database, hidden. */
export function setRisks(
  tx: Tx,
  of: { readonly projectId: number; readonly planId: number; readonly now: number },
  risks: readonly RiskSaid[],
): void {
  tx.update(planRisk)
    .set({ deletedAt: of.now })
    .where(and(eq(planRisk.planId, of.planId), isNull(planRisk.deletedAt)))
    .run()
  risks.forEach(({ title, likelihood, impact, requirements, cases }, at) => {
    const { id } = tx
      .insert(planRisk)
      .values({ projectId: of.projectId, planId: of.planId, position: at + 1, title, likelihood, impact })
      .returning({ id: planRisk.id })
      .get()
    for (const requirementId of requirements) tx.insert(planRiskAnswer).values({ riskId: id, requirementId }).run()
    for (const caseId of cases) tx.insert(planRiskAnswer).values({ riskId: id, caseId }).run()
  })
}

export const branchesOf = (tx: Tx, planId: number): PlanSheet['branches'] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text, inside: int, reason: text },
    sql`
      select r.id, ${keySql('requirement', 'r.number')} as key, r.title, b.inside, b.reason
      from plan_branch b
      join requirement r on r.id = b.requirement_id
      where b.plan_id = ${planId} and r.deleted_at is null
      order by b.inside desc, r.number`,
  ).map((row) => ({ ...row, inside: row.inside === 1 }))

export function setBranches(
  tx: Tx,
  planId: number,
  branches: readonly { readonly id: number; readonly inside: boolean; readonly reason: string }[],
): void {
  tx.delete(planBranch).where(eq(planBranch.planId, planId)).run()
  for (const { id, inside, reason } of branches)
    tx.insert(planBranch).values({ planId, requirementId: id, inside, reason }).run()
}

export const peopleIn = (tx: Tx, planId: number): { id: string; name: string; part: string }[] =>
  rowsOf(
    tx,
    { id: text, name: text, part: text },
    sql`
      select p.id, p.name, t.part
      from plan_person t
      join person p on p.id = t.person_id
      where t.plan_id = ${planId}
      order by p.name`,
  )

export function setPeople(
  tx: Tx,
  planId: number,
  people: readonly { readonly id: string; readonly part: string }[],
): void {
  tx.delete(planPerson).where(eq(planPerson.planId, planId)).run()
  for (const { id, part } of people) tx.insert(planPerson).values({ planId, personId: id, part }).run()
}

export const milestonesOf = (tx: Tx, planId: number): PlanSheet['milestones'] =>
  tx
    .select({ title: planMilestone.title, on: planMilestone.on })
    .from(planMilestone)
    .where(and(eq(planMilestone.planId, planId), isNull(planMilestone.deletedAt)))
    .orderBy(asc(planMilestone.on), asc(planMilestone.id))
    .all()

export function setMilestones(
  tx: Tx,
  of: { readonly projectId: number; readonly planId: number; readonly now: number },
  milestones: PlanSheet['milestones'],
): void {
  tx.update(planMilestone)
    .set({ deletedAt: of.now })
    .where(and(eq(planMilestone.planId, of.planId), isNull(planMilestone.deletedAt)))
    .run()
  for (const { title, on } of milestones)
    tx.insert(planMilestone).values({ projectId: of.projectId, planId: of.planId, title, on }).run()
}
