import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { suiteStates } from '#core/plans/state.ts'
import { isLiveCase } from '#db/rules.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, sql } from 'drizzle-orm'
import { madeWords } from '#core/plans/made.ts'
import type { SourceKind } from '#core/plans/source.ts'
import type { SuiteMember, SuiteRow, SuiteSheet } from '#core/plans/suite-contract.ts'
import { steadyMinutes } from '#db/cases/list.ts'
import { groupBy } from '#core/lib/group.ts'
import { inOrder } from '#core/lib/in-order.ts'
import { contains } from '#db/finding/contains.ts'
import { inIds, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { suite } from './tables.ts'

export type SuiteStored = typeof suite.$inferSelect
/** As it was written down: who is in now is reckoned for one suite, and would take too long for a list of them. */
export const memberCount = sql`t.case_count`

const memberMinutes = sql`t.case_minutes`
const sourceCount = (kind: SourceKind) => sql`
  (select count(*) from suite_source x where x.suite_id = t.id and x.deleted_at is null and x.kind = ${kind})`
const brokenCount = sql`
  (select count(*) from suite_source x where x.suite_id = t.id and x.deleted_at is null and x.broken_at is not null)`
const pinCount = sql`(select count(*) from suite_pin p where p.suite_id = t.id)`
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
    cases: memberCount,
    minutes: memberMinutes,
    plans: planCount,
    broken: brokenCount,
  },
  search: (word) => contains(sql`t.title`, word),
  defaultSort: sql`t.number`,
})

const week = 7 * 86_400_000
/** So many news are counted; more are as many. */
const mostNews = 1000

/** Rows of the list; news are told as of `now`. */
export const suiteRows = (tx: Tx, projectId: number, ids: readonly number[], now: number): SuiteRow[] =>
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
        pins: int,
        branch: int,
        rule: int,
        suite: int,
        best: int,
        broken: int,
        news: int,
        inPlans: int,
        version: int,
      },
      sql`
        select t.id, ${keySql('suite', 't.number')} as key, t.number, t.title, t.objective, t.state,
          t.version, ${memberCount} as cases, ${memberMinutes} as minutes, ${planCount} as inPlans,
          ${pinCount} as pins, ${sourceCount('branch')} as branch, ${sourceCount('rule')} as rule,
          ${sourceCount('suite')} as suite, ${sourceCount('best')} as best, ${brokenCount} as broken,
          (
            select count(*)
            from (
              select 1
              from suite_member m
              where m.suite_id = t.id and m.until_at is null and m.from_at > ${now - week}
              limit ${mostNews}
            )
          ) as news
        from suite t
        where t.project_id = ${projectId} and t.deleted_at is null and ${inIds(sql`t.id`, ids)}`,
    ).map(({ pins, branch, rule, suite, best, ...row }) => ({
      ...row,
      made: madeWords({ pins, branch, rule, suite, best }),
    })),
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

/** Ids of the pinned cases, in the order of the pins. */
export const pinsOf = (tx: Tx, suiteId: number): { id: number; idle: boolean }[] =>
  rowsOf(
    tx,
    { id: int, live: int },
    sql`
      select p.case_id as id, (${isLiveCase('c')}) as live
      from suite_pin p
      join test_case c on c.id = p.case_id
      where p.suite_id = ${suiteId}
      order by p.position`,
  ).map(({ id, live }) => ({ id, idle: live === 0 }))

/** What a suite's list shows of cases, in the order asked for. */
export const memberRows = (tx: Tx, ids: readonly number[]): Omit<SuiteMember, 'by' | 'why'>[] =>
  inOrder(
    ids,
    rowsOf(
      tx,
      { id: int, key: text, title: text, importance: text, minutes: int },
      sql`
        select c.id, ${keySql('case', 'c.number')} as key, c.title, c.importance, ${steadyMinutes} as minutes
        from test_case c
        where ${inIds(sql`c.id`, ids)}`,
    ),
  )

/** Keys of the pinned cases by suite, in the order of the cases. */
export function pinnedKeys(tx: Tx, suites: readonly number[]): Map<number, string[]> {
  const rows = rowsOf(
    tx,
    { suite: int, key: text },
    sql`
      select p.suite_id as suite, ${keySql('case', 'c.number')} as key
      from suite_pin p
      join test_case c on c.id = p.case_id
      where ${inIds(sql`p.suite_id`, suites)} and ${isLiveCase('c')}
      order by p.suite_id, c.number`,
  )
  return new Map([...groupBy(rows, ({ suite }) => suite)].map(([id, own]) => [id, own.map(({ key }) => key)]))
}

const named = { key: text, title: text }

export const plansOfSuite = (tx: Tx, suiteId: number): SuiteSheet['plans'] =>
  rowsOf(
    tx,
    named,
    sql`
      select ${keySql('plan', 'p.number')} as key, p.title
      from plan_suite s
      join plan p on p.id = s.plan_id
      where s.suite_id = ${suiteId} and p.deleted_at is null
      order by p.number`,
  )

/** Runs that were made of it, the newest first. */
export const runsOfSuite = (tx: Tx, suiteId: number): SuiteSheet['runs'] =>
  rowsOf(
    tx,
    { ...named, state: text, at: int },
    sql`
      select ${keySql('run', 'r.number')} as key, r.title, r.state, r.created_at as at
      from run_suite s
      join run r on r.id = s.run_id
      where s.suite_id = ${suiteId} and r.deleted_at is null
      order by r.created_at desc, r.id desc
      limit 50`,
  )

/** Suites that hold it whole. */
export const suitesHolding = (tx: Tx, suiteId: number): SuiteSheet['within'] =>
  rowsOf(
    tx,
    named,
    sql`
      select distinct ${keySql('suite', 's.number')} as key, s.title
      from suite_source x
      join suite s on s.id = x.suite_id
      where x.included_id = ${suiteId} and x.deleted_at is null and s.deleted_at is null
      order by s.number`,
  )

export const exclusionsOf = (tx: Tx, suiteId: number): SuiteSheet['exclusions'] =>
  rowsOf(
    tx,
    { ...named, id: int, reason: text, by: maybe(text), at: int },
    sql`
      select c.id, ${keySql('case', 'c.number')} as key, c.title, x.reason, p.name as "by", x.at
      from suite_exclusion x
      join test_case c on c.id = x.case_id
      left join person p on p.id = x.person_id
      where x.suite_id = ${suiteId} and c.deleted_at is null
      order by x.at desc, c.number`,
  )

export const exclude = (
  tx: Tx,
  suiteId: number,
  caseIds: readonly number[],
  of: { readonly reason: string; readonly personId: string | null; readonly now: number },
): void =>
  void tx.run(sql`
    insert into suite_exclusion (suite_id, case_id, reason, person_id, at)
    select ${suiteId}, value, ${of.reason}, ${of.personId}, ${of.now}
    from json_each(${JSON.stringify(caseIds)})
    where true
    on conflict do update set reason = excluded.reason, person_id = excluded.person_id, at = excluded.at`)
export const include = (tx: Tx, suiteId: number, caseIds: readonly number[]): void =>
  void tx.run(sql`delete from suite_exclusion where suite_id = ${suiteId} and ${inIds(sql`case_id`, caseIds)}`)

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

/** Pins cases after those that are; answers how many were not pinned before. */
export function pinToSuite(tx: Tx, suiteId: number, caseIds: readonly number[]): number {
  const last =
    rowOf(tx, { n: maybe(int) }, sql`select max(position) as n from suite_pin where suite_id = ${suiteId}`)?.n ?? 0
  return tx.run(sql`
    insert or ignore into suite_pin (suite_id, case_id, position)
    select ${suiteId}, value, ${last} + key + 1
    from json_each(${JSON.stringify(caseIds)})`).changes
}
export const unpin = (tx: Tx, suiteId: number, caseIds: readonly number[]): void =>
  void tx.run(sql`delete from suite_pin where suite_id = ${suiteId} and ${inIds(sql`case_id`, caseIds)}`)

/** The order by hand, anew. */
export function placeCases(tx: Tx, suiteId: number, caseIds: readonly number[]): void {
  tx.run(sql`delete from suite_place where suite_id = ${suiteId}`)
  tx.run(sql`
    insert or ignore into suite_place (suite_id, case_id, position)
    select ${suiteId}, value, key + 1
    from json_each(${JSON.stringify(caseIds)})`)
}

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
