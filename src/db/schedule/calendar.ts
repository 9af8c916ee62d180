import { sql, type SQL } from 'drizzle-orm'
import type { Calendar, DayItem } from '#core/schedule/calendar-contract.ts'
import { verdicts } from '#core/lib/verdict.ts'
import { runStates } from '#core/runs/state.ts'
import { keySql } from '#db/key-sql.ts'
import { isOpenVerdict } from '#db/rules.ts'
import { itemMinutes } from '#db/runs/items.ts'
import { placedMinutes } from './places.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'

/** Plain dates, both among them. */
export interface Between {
  readonly from: string
  readonly to: string
}

/** Of whom, and where: items on people's days of a project, of runs that are there. */
const placedIn = (projectId: number) => sql`
  item_place w
  cross join item i on i.id = w.item_id and i.deleted_at is null
  cross join test_case c on c.id = i.case_id
  cross join run r on r.id = i.run_id and r.project_id = ${projectId} and r.deleted_at is null`

/** What is on people's days, run by run; each person's days are found by the index. */
export const loadsBetween = (
  tx: Tx,
  of: Between & { readonly projectId: number; readonly people: readonly string[] },
): Calendar['loads'] =>
  rowsOf(
    tx,
    { person: text, day: text, run: text, items: int, minutes: int, pinned: int, done: int },
    sql`
      select w.person_id as person, w.day, ${keySql('run', 'r.number')} as run,
        sum(${isOpenVerdict('i.verdict')}) as items,
        sum(iif(${isOpenVerdict('i.verdict')}, ${placedMinutes}, 0)) as minutes,
        sum(${isOpenVerdict('i.verdict')} and w.pinned) as pinned,
        sum(not ${isOpenVerdict('i.verdict')}) as done
      from json_each(${JSON.stringify(of.people)}) p
      cross join ${placedIn(of.projectId)}
      where w.person_id = p.value and w.day between ${of.from} and ${of.to}
      group by w.person_id, w.day, r.id
      order by w.day, w.person_id, r.number`,
  )

const placedWhere = (
  tx: Tx,
  projectId: number,
  where: SQL,
  at: { readonly limit: number; readonly cursor: number },
): DayItem[] =>
  rowsOf(
    tx,
    {
      id: int,
      run: text,
      runTitle: text,
      case: text,
      title: text,
      environment: text,
      minutes: int,
      start: int,
      pinned: int,
      dueOn: maybe(text),
      verdict: oneOf(verdicts),
      person: text,
      name: text,
      day: text,
    },
    sql`
      select i.id, ${keySql('run', 'r.number')} as run, r.title as runTitle, ${keySql('case', 'c.number')} as "case",
        c.title, e.name as environment, ${placedMinutes} as minutes, w.start, w.pinned, i.due_on as dueOn, i.verdict,
        w.person_id as person, coalesce(p.name, '') as name, w.day
      from ${placedIn(projectId)}
      join environment e on e.id = i.environment_id
      left join person p on p.id = w.person_id
      where ${where}
      order by w.day, w.person_id, r.number, w.start, i.id
      limit ${at.limit} offset ${at.cursor}`,
  ).map(({ pinned, ...row }) => ({ ...row, pinned: pinned === 1 }))

/** What is on somebody's day in a project: run by run, in its order. */
export const dayItems = (
  tx: Tx,
  of: { readonly projectId: number; readonly person: string; readonly day: string },
  at: { readonly limit: number; readonly cursor: number },
): DayItem[] => placedWhere(tx, of.projectId, sql`w.person_id = ${of.person} and w.day = ${of.day}`, at)

/** So many items are told in a file at most. */
const mostInFile = 20_000
/** What is on the days of a person, or of a run. */
export const placedBetween = (
  tx: Tx,
  of: Between & { readonly projectId: number; readonly person: string | null; readonly runId: number | null },
): DayItem[] =>
  placedWhere(
    tx,
    of.projectId,
    sql`${of.runId === null ? sql`w.person_id = ${of.person}` : sql`i.run_id = ${of.runId}`}
      and w.day between ${of.from} and ${of.to}`,
    { limit: mostInFile, cursor: 0 },
  )

/** Days on which items of a person, or of a run, are due that are still to be executed. */
export const dueBetween = (
  tx: Tx,
  of: Between & { readonly projectId: number; readonly person: string | null; readonly runId: number | null },
): { day: string; run: string; title: string; items: number }[] =>
  rowsOf(
    tx,
    { day: text, run: text, title: text, items: int },
    sql`
      select i.due_on as day, ${keySql('run', 'r.number')} as run, r.title, count(*) as items
      from item i
      join run r on r.id = i.run_id and r.project_id = ${of.projectId} and r.deleted_at is null
      where ${of.runId === null ? sql`i.assignee_id = ${of.person}` : sql`i.run_id = ${of.runId}`}
        and i.due_on between ${of.from} and ${of.to}
        and i.deleted_at is null
        and ${isOpenVerdict('i.verdict')}
        and r.state in ('Planned', 'Open')
      group by i.due_on, r.id
      order by i.due_on, r.number`,
  )

export const countOfDay = (tx: Tx, of: { projectId: number; person: string; day: string }): number =>
  rowOf(
    tx,
    { n: int },
    sql`select count(*) as n from ${placedIn(of.projectId)} where w.person_id = ${of.person} and w.day = ${of.day}`,
  )?.n ?? 0

/** So many runs are drawn at most. */
const mostRuns = 60
const runsWhere = (projectId: number, { from, to }: Between) => sql`
  r.project_id = ${projectId} and r.deleted_at is null and r.start_on <= ${to} and r.end_on >= ${from}`

/** Runs that lie in some days, those that go on first; with what is left of them. */
export const runsBetween = (tx: Tx, projectId: number, between: Between): Calendar['runs'] =>
  rowsOf(
    tx,
    {
      key: text,
      title: text,
      state: oneOf(runStates),
      startOn: text,
      endOn: text,
      version: int,
      items: int,
      minutes: int,
      placed: int,
      all: int,
    },
    sql`
      with shown as (
        select r.*
        from run r
        where ${runsWhere(projectId, between)}
        order by r.state in ('Planned', 'Open') desc, r.number desc
        limit ${mostRuns}
      ),
      counts as (
        select i.run_id as id, count(*) as "all",
          sum(${isOpenVerdict('i.verdict')}) as items,
          sum(iif(${isOpenVerdict('i.verdict')}, ${itemMinutes}, 0)) as minutes,
          sum(${isOpenVerdict('i.verdict')} and w.item_id is not null) as placed
        from shown s
        cross join item i on i.run_id = s.id and i.deleted_at is null
        cross join test_case c on c.id = i.case_id
        left join item_place w on w.item_id = i.id
        group by i.run_id
      )
      select ${keySql('run', 'r.number')} as key, r.title, r.state, r.start_on as startOn, r.end_on as endOn, r.version,
        coalesce(k.items, 0) as items, coalesce(k.minutes, 0) as minutes, coalesce(k.placed, 0) as placed,
        coalesce(k."all", 0) as "all"
      from shown r
      left join counts k on k.id = r.id
      order by r.start_on, r.number`,
  )
export const countOfRuns = (tx: Tx, projectId: number, between: Between): number =>
  rowOf(tx, { n: int }, sql`select count(*) as n from run r where ${runsWhere(projectId, between)}`)?.n ?? 0

/** Runs of a project that go on or are to: what is planned in them is not elsewhere. */
export const goingRuns = (tx: Tx, projectId: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`select id from run where project_id = ${projectId} and state in ('Planned', 'Open') and deleted_at is null`,
  ).map(({ id }) => id)

/** What days are known by: releases, iterations and milestones of plans, and items that are due, run by run. */
export const marksBetween = (tx: Tx, projectId: number, { from, to }: Between): Calendar['marks'] =>
  rowsOf(
    tx,
    { day: text, kind: oneOf(['release', 'iteration', 'milestone', 'due'] as const), words: text, key: maybe(text) },
    sql`
      with all_marks as (
        select start_on as day, 'release' as kind, name || ' starts' as words, null as key
        from release where project_id = ${projectId} and deleted_at is null
        union all
        select due_on, 'release', name || ' due', null
        from release where project_id = ${projectId} and deleted_at is null
        union all
        select t.start_on, 'iteration', t.name || ' starts', null
        from iteration t join release r on r.id = t.release_id
        where r.project_id = ${projectId} and r.deleted_at is null and t.deleted_at is null
        union all
        select t.due_on, 'iteration', t.name || ' ends', null
        from iteration t join release r on r.id = t.release_id
        where r.project_id = ${projectId} and r.deleted_at is null and t.deleted_at is null
        union all
        select m."on", 'milestone', m.title, ${keySql('plan', 'p.number')}
        from plan_milestone m join plan p on p.id = m.plan_id and p.deleted_at is null
        where m.project_id = ${projectId} and m.deleted_at is null
        union all
        select i.due_on, 'due', count(*) || iif(count(*) = 1, ' item due', ' items due'), ${keySql('run', 'r.number')}
        from run r
        join item i on i.run_id = r.id and i.deleted_at is null and ${isOpenVerdict('i.verdict')}
        where r.project_id = ${projectId} and r.deleted_at is null and r.state in ('Planned', 'Open')
          and i.due_on is not null
        group by i.due_on, r.id
      )
      select day, kind, words, key from all_marks where day between ${from} and ${to} order by day, kind, words`,
  )

/** Minutes planned in environments with seats, by day. */
export const seatsBetween = (
  tx: Tx,
  of: Between & { readonly projectId: number; readonly people: readonly string[] },
): { environment: string; seats: number; day: string; minutes: number }[] =>
  rowsOf(
    tx,
    { environment: text, seats: int, day: text, minutes: int },
    sql`
      select e.name as environment, e.seats, w.day, sum(${placedMinutes}) as minutes
      from json_each(${JSON.stringify(of.people)}) p
      cross join ${placedIn(of.projectId)}
      join environment e on e.id = i.environment_id
      where w.person_id = p.value and w.day between ${of.from} and ${of.to}
        and e.seats is not null and ${isOpenVerdict('i.verdict')}
      group by e.id, w.day
      order by e.position, w.day`,
  )
