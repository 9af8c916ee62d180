import { sql } from 'drizzle-orm'
import { lookBack } from '#core/schedule/worth.ts'
import { type HeldSide, heldSides } from '#core/schedule/held.ts'
import { type Verdict, verdicts } from '#core/lib/verdict.ts'
import { minutesSources, type MinutesSource } from '#core/schedule/estimates.ts'
import { keySql } from '#db/key-sql.ts'
import { inIds } from '#db/finding/list.ts'
import { itemMinutes } from '#db/runs/items.ts'
import { itemsWaited } from '#db/runs/waits.ts'
import { isOpenDefect, isOpenVerdict, minutesSourceOf } from '#db/rules.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'

export interface OpenWork {
  readonly id: number
  readonly key: string
  readonly title: string
  readonly environmentName: string
  readonly case: number
  readonly environment: number
  readonly minutes: number
  readonly source: MinutesSource
  readonly verdict: Verdict
  readonly assignee: string | null
  readonly due: string | null
  readonly held: HeldSide | null
  readonly importance: string
  readonly person: string | null
  readonly day: string | null
  readonly start: number | null
  readonly pinned: boolean
}

/** Items of a run, or some of them, that are still to be executed, in the order of the run. */
export const openWork = (tx: Tx, runId: number, ids: readonly number[] | null = null): OpenWork[] =>
  rowsOf(
    tx,
    {
      id: int,
      key: text,
      title: text,
      environmentName: text,
      case: int,
      environment: int,
      minutes: int,
      source: oneOf(minutesSources),
      verdict: oneOf(verdicts),
      assignee: maybe(text),
      due: maybe(text),
      held: maybe(oneOf(heldSides)),
      importance: text,
      person: maybe(text),
      day: maybe(text),
      start: maybe(int),
      pinned: maybe(int),
    },
    sql`
      select i.id, ${keySql('case', 'c.number')} as key, c.title, e.name as environmentName, i.case_id as "case", i.environment_id as environment, ${itemMinutes} as minutes,
        ${minutesSourceOf(['i.estimate', 'c.estimate'], 'i.environment_id')} as source, i.verdict,
        i.assignee_id as assignee, i.due_on as due, i.held, c.importance, w.person_id as person, w.day, w.start, w.pinned
      from item i
      join test_case c on c.id = i.case_id
      join environment e on e.id = i.environment_id
      left join item_place w on w.item_id = i.id
      where i.run_id = ${runId}
        and i.deleted_at is null
        and ${isOpenVerdict('i.verdict')}
        and ${ids === null ? sql`1` : inIds(sql`i.id`, ids)}
      order by i.position, i.id`,
  ).map(({ pinned, ...row }) => ({ ...row, pinned: pinned === 1 }))

/** What of the items of a run a plan of days rests on: nothing that a verdict changes. */
export const itemsAsPlanned = (tx: Tx, runId: number): (string | number | null)[][] =>
  rowsOf(
    tx,
    { id: int, due: maybe(text), held: maybe(text), assignee: maybe(text) },
    sql`
      select id, due_on as due, held, assignee_id as assignee
      from item
      where run_id = ${runId} and deleted_at is null
      order by id`,
  ).map(({ id, due, held, assignee }) => [id, due, held, assignee])

/** Items of a run that are still to be executed, with whether they were begun. */
export const openIds = (tx: Tx, runId: number): { id: number; begun: number }[] =>
  rowsOf(
    tx,
    { id: int, begun: int },
    sql`
      select id, verdict = 'In progress' as begun
      from item
      where run_id = ${runId} and deleted_at is null and ${isOpenVerdict('verdict')}`,
  )

/** What is left to do in a run, by environment. */
export const workByEnvironment = (tx: Tx, runId: number) =>
  rowsOf(
    tx,
    { id: int, name: text, items: int, minutes: int },
    sql`
      select e.id, e.name, count(*) as items, sum(${itemMinutes}) as minutes
      from item i
      join test_case c on c.id = i.case_id
      join environment e on e.id = i.environment_id
      where i.run_id = ${runId} and i.deleted_at is null and ${isOpenVerdict('i.verdict')}
      group by e.id
      order by e.position, e.id`,
  )

export interface PastAttempts {
  readonly fails: number
  readonly n: number
}
export const placeKey = (caseId: number, environmentId: number): string => `${caseId}:${environmentId}`

/** How the last final attempts of cases went, by case and environment; struck ones aside. */
export const pastOf = (tx: Tx, cases: readonly number[]): Map<string, PastAttempts> =>
  new Map(
    rowsOf(
      tx,
      { caseId: int, environmentId: int, fails: int, n: int },
      sql`
        select caseId, environmentId, sum(verdict = 'Failed') as fails, count(*) as n
        from (
          select a.case_id as caseId, a.environment_id as environmentId, a.verdict,
            row_number() over (
              partition by a.case_id, a.environment_id
              order by a.finished_at desc, a.id desc
            ) as place
          from attempt a
          where ${inIds(sql`a.case_id`, cases)} and a.final = 1 and a.struck is null
        )
        where place <= ${lookBack}
        group by caseId, environmentId`,
    ).map(({ caseId, environmentId, ...past }) => [placeKey(caseId, environmentId), past]),
  )

/** How often final attempts of a project fail, and of how many of them. */
export function failRate(tx: Tx, projectId: number): { rate: number; n: number } {
  const told = rowOf(
    tx,
    { fails: maybe(int), n: int },
    sql`
      select sum(verdict = 'Failed') as fails, count(*) as n
      from attempt
      where project_id = ${projectId} and final = 1 and struck is null`,
  )
  return told && told.n > 0 ? { rate: (told.fails ?? 0) / told.n, n: told.n } : { rate: 0, n: 0 }
}

/** Requirements at which a defect is open: linked to it, or to a case that proves it. */
export const requirementsWithOpenDefect = (tx: Tx, projectId: number): Set<number> =>
  new Set(
    rowsOf(
      tx,
      { id: int },
      sql`
        with open as (
          select l.requirement_id as requirement, l.case_id as "case"
          from defect d
          join defect_link l on l.defect_id = d.id and l.until_at is null
          where d.project_id = ${projectId} and d.deleted_at is null and ${isOpenDefect('d.state')}
        )
        select requirement as id from open where requirement is not null
        union
        select k.requirement_id
        from open o
        join link k on k.case_id = o."case" and k.until_at is null`,
    ).map(({ id }) => id),
  )

export const importanceOf = (tx: Tx, projectId: number): Map<number, string> =>
  new Map(
    rowsOf(
      tx,
      { id: int, importance: text },
      sql`select id, importance from test_case where project_id = ${projectId} and deleted_at is null`,
    ).map(({ id, importance }) => [id, importance]),
  )

/** Which items of a run come after which others of it: by what was said, and by cases that must have run before. */
export function orderInRun(tx: Tx, runId: number): Map<number, number[]> {
  const needs = rowsOf(
    tx,
    { item: int, other: int },
    sql`
      select h.id as item, x.id as other
      from case_need n
      cross join case_version v on v.id = n.version_id and v.major is null
      cross join item h on h.case_id = v.case_id and h.run_id = ${runId} and h.deleted_at is null
      join item x on x.run_id = h.run_id
        and x.case_id = n.case_id
        and x.environment_id = h.environment_id
        and x.deleted_at is null`,
  )
  const order = new Map([...itemsWaited(tx, runId)].map(([item, others]) => [item, [...others]]))
  for (const { item, other } of needs) order.set(item, [...(order.get(item) ?? []), other])
  return order
}
