import { and, desc, eq, sql } from 'drizzle-orm'
import type { DoubtTold } from '#core/runs/attempts-contract.ts'
import { inIds } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { attempt, doubtAct } from './tables.ts'

export const addDoubt = (tx: Tx, of: Omit<typeof doubtAct.$inferInsert, 'id'>): number =>
  tx.insert(doubtAct).values(of).returning({ id: doubtAct.id }).get().id
export const doubtById = (tx: Tx, projectId: number, id: number): typeof doubtAct.$inferSelect | undefined =>
  tx
    .select()
    .from(doubtAct)
    .where(and(eq(doubtAct.id, id), eq(doubtAct.projectId, projectId)))
    .get()
export const doubtsOf = (tx: Tx, projectId: number, most: number): (typeof doubtAct.$inferSelect)[] =>
  tx
    .select()
    .from(doubtAct)
    .where(eq(doubtAct.projectId, projectId))
    .orderBy(desc(doubtAct.at), desc(doubtAct.id))
    .limit(most)
    .all()
export const endDoubt = (tx: Tx, id: number, of: { readonly liftedAt: number; readonly liftedById: string }): void =>
  void tx.update(doubtAct).set(of).where(eq(doubtAct.id, id)).run()
/** Attempts a doubt is of. */
export const doubtedBy = (tx: Tx, id: number): number[] =>
  tx
    .select({ id: attempt.id })
    .from(attempt)
    .where(eq(attempt.doubtId, id))
    .orderBy(attempt.id)
    .all()
    .map((own) => own.id)

/** Those of some attempts that have a verdict which nobody doubts by now. */
export const doubtable = (tx: Tx, projectId: number, attempts: readonly number[]): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select a.id
      from attempt a
      where +a.project_id = ${projectId} and ${inIds(sql`a.id`, attempts)} and a.final = 1 and a.struck is null
        and a.doubt is null
      order by a.id`,
  ).map(({ id }) => id)

/** Where some attempts were made, each place once, of those that are final and were not struck out. */
export const placesOf = (
  tx: Tx,
  projectId: number,
  attempts: readonly number[],
): { caseId: number; environmentId: number; buildId: number }[] =>
  rowsOf(
    tx,
    { caseId: int, environmentId: int, buildId: int },
    sql`
      select distinct a.case_id as caseId, a.environment_id as environmentId, a.build_id as buildId
      from attempt a
      where +a.project_id = ${projectId} and ${inIds(sql`a.id`, attempts)} and a.final = 1 and a.struck is null`,
  )

/** When the first of some attempts was begun, in ms; without any, never. */
export const firstBegun = (tx: Tx, attempts: readonly number[]): number =>
  rowOf(tx, { at: maybe(int) }, sql`select min(started_at) as at from attempt where ${inIds(sql`id`, attempts)}`)?.at ??
  Number.MAX_SAFE_INTEGER

/** Signatures under plans that ask for one of these cases, given since the first of the attempts. */
export const signaturesSince = (
  tx: Tx,
  of: { readonly projectId: number; readonly cases: readonly number[]; readonly since: number },
): DoubtTold['signOffs'] =>
  rowsOf(
    tx,
    { plan: text, title: text, version: int, person: text, at: int },
    sql`
      select ${keySql('plan', 'l.number')} as plan, l.title, v.number as version, p.name as person, g.at
      from plan_version v
      join plan l on l.id = v.plan_id
      join plan_signature g on g.version_id = v.id and g.answer = 'approved'
      join person p on p.id = g.person_id
      where v.project_id = ${of.projectId}
        and l.deleted_at is null
        and v.state = 'Signed off'
        and g.at >= ${of.since}
        and exists (
          select 1
          from plan_version_slot s
          where s.version_id = v.id and ${inIds(sql`s.case_id`, of.cases)}
        )
      order by g.at, v.id`,
  )

/** Ended defects whose last retest that passed is among some attempts, with no other that passed between its repair and its end. */
export const closedBy = (tx: Tx, projectId: number, attempts: readonly number[]): DoubtTold['defects'] =>
  rowsOf(
    tx,
    { key: text, title: text, closedAt: int },
    sql`
      with ended as (
        select d.id, d.number, d.title,
          (
            select max(s.at)
            from defect_state_at s
            where s.defect_id = d.id and s.state = 'Closed'
          ) as closed_at,
          (
            select max(s.at)
            from defect_state_at s
            where s.defect_id = d.id and s.state = 'Ready to retest'
          ) as repaired_at
        from defect d
        where d.project_id = ${projectId}
          and d.deleted_at is null
          and d.state = 'Closed'
      ),
      passed as (
        select e.id, a.id as attempt_id
        from ended e
        join defect_link l on l.defect_id = e.id and l.until_at is null
        join attempt a on a.case_id = l.case_id
        where a.verdict = 'Passed'
          and a.final = 1
          and a.struck is null
          and a.finished_at <= e.closed_at
          and a.finished_at >= coalesce(e.repaired_at, 0)
      )
      select ${keySql('defect', 'e.number')} as key, e.title, e.closed_at as closedAt
      from ended e
      where e.id in (select id from passed where ${inIds(sql`attempt_id`, attempts)})
        and not exists (select 1 from passed p where p.id = e.id and not ${inIds(sql`p.attempt_id`, attempts)})
      order by e.number`,
  )
