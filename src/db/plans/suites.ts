import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { suiteStates } from '#core/plans/state.ts'
import { isLiveCase } from '#db/rules.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, sql } from 'drizzle-orm'
import type { SuiteRow, SuiteSheet } from '#core/plans/contract.ts'
import { caseMinutes } from '#db/cases/list.ts'
import { inOrder } from '#core/lib/in-order.ts'
import { contains } from '#db/finding/contains.ts'
import { inIds, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { suite, suitePin } from './tables.ts'

export type SuiteStored = typeof suite.$inferSelect
export const pinCount = sql`
  (
    select count(*)
    from suite_pin p
    join test_case c on c.id = p.case_id
    where p.suite_id = t.id and c.deleted_at is null
  )`

const pinnedMinutes = sql`
  coalesce(
      (
        select sum(${caseMinutes})
        from suite_pin p
        join test_case c on c.id = p.case_id
        where p.suite_id = t.id and c.deleted_at is null
      ),
      0
    )`
const planCount = sql`
  (
    select count(*)
    from plan_suite s
    join plan p on p.id = s.plan_id
    where s.suite_id = t.id and p.deleted_at is null
  )`

export const suiteSource = (projectId: number): ListSource => ({
  id: sql`t.id`,
  from: sql`suite t`,
  where: sql`t.project_id = ${projectId} and t.deleted_at is null`,
  fields: {
    id: sql`t.id`,
    number: sql`t.number`,
    title: sql`t.title`,
    state: sql`t.state`,
    cases: pinCount,
    minutes: pinnedMinutes,
    plans: planCount,
  },
  search: (word) => contains(sql`t.title`, word),
  defaultSort: sql`t.number`,
})

export const suiteRows = (tx: Tx, projectId: number, ids: readonly number[]): SuiteRow[] =>
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
        state: oneOf(suiteStates),
        cases: int,
        minutes: int,
        inPlans: int,
        version: int,
      },
      sql`
        select t.id, ${keySql('suite', 't.number')} as key, t.number, t.title, t.objective, t.state,
          t.version, ${pinCount} as cases, ${pinnedMinutes} as minutes, ${planCount} as inPlans
        from suite t
        where t.project_id = ${projectId} and t.deleted_at is null and ${inIds(sql`t.id`, ids)}`,
    ),
  )

export const findSuite = (tx: Tx, projectId: number, number: number): SuiteStored | undefined =>
  tx
    .select()
    .from(suite)
    .where(and(eq(suite.projectId, projectId), eq(suite.number, number)))
    .get()

export const suiteById = (tx: Tx, projectId: number, id: number): SuiteStored | undefined =>
  tx
    .select()
    .from(suite)
    .where(and(eq(suite.projectId, projectId), eq(suite.id, id)))
    .get()

export const pinnedCases = (tx: Tx, suiteId: number): SuiteSheet['pinned'] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text, importance: text, minutes: int },
    sql`
      select c.id, ${keySql('case', 'c.number')} as key, c.title, c.importance, ${caseMinutes} as minutes
      from suite_pin p
      join test_case c on c.id = p.case_id
      where p.suite_id = ${suiteId} and c.deleted_at is null
      order by p.position`,
  )

export const plansOfSuite = (tx: Tx, suiteId: number): SuiteSheet['plans'] =>
  rowsOf(
    tx,
    { key: text, title: text },
    sql`
      select ${keySql('plan', 'p.number')} as key, p.title
      from plan_suite s
      join plan p on p.id = s.plan_id
      where s.suite_id = ${suiteId} and p.deleted_at is null
      order by p.number`,
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
    rowOf(tx, { n: maybe(int) }, sql`select max(position) as n from suite_pin where suite_id = ${suiteId}`)?.n ?? 0
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

/** Live cases of suites, in the suites' order, each once. */
/** Keys of those cases that have no approved version. */
export const unapprovedOf = (tx: Tx, caseIds: readonly number[]): string[] =>
  rowsOf(
    tx,
    { key: text },
    sql`
      select ${keySql('case', 'c.number')} as key
      from test_case c
      where c.approved_version_id is null and ${inIds(sql`c.id`, caseIds)}
      order by c.number`,
  ).map(({ key }) => key)

export const casesOfSuites = (tx: Tx, projectId: number, suiteIds: readonly number[]): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select c.id
      from suite_pin p
      join test_case c on c.id = p.case_id
      join json_each(${JSON.stringify(suiteIds)}) j on j.value = p.suite_id
      where c.project_id = ${projectId} and ${isLiveCase('c')}
      group by c.id
      order by min(j.key * 1000000 + p.position)`,
  ).map(({ id }) => id)
