import { sql } from 'drizzle-orm'
import { minutesOn, newcomer } from '#core/people/capacity.ts'
import { absencesOf } from '#db/people/hours.ts'
import { capacityOf, staffOf } from '#db/people/members.ts'
import { int, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'
import { inIds } from '#db/finding/list.ts'
import { placedMinutes } from './places.ts'
import { holidaysOf } from '#db/projects/holidays.ts'

export interface Hand {
  readonly id: string
  readonly name: string
  readonly skills: readonly string[]
  /** Of each day: what they can give, and what of it is planned in other runs and projects. */
  readonly minutes: readonly number[]
  readonly busy: readonly number[]
}

/** Who is to execute any of some runs. */
export const peopleOf = (tx: Tx, runs: readonly number[]): string[] =>
  rowsOf(
    tx,
    { id: text },
    sql`select distinct person_id as id from run_person where ${inIds(sql`run_id`, runs)} order by 1`,
  ).map(({ id }) => id)

/** What somebody gives whom nobody named yet: as much as a new person of the project, who is never away. */
export function newcomerMinutes(
  tx: Tx,
  of: { readonly projectId: number; readonly workingDays: string; readonly reservePercent: number },
  days: readonly string[],
): number[] {
  const given = givenIn(tx, of)
  const capacity = { ...newcomer, workingDays: of.workingDays, absences: [] }
  return days.map((day) => given(day, capacity))
}

/** What is given on a day by a capacity: nothing on a holiday, and less what is kept for retests. */
function givenIn(tx: Tx, of: { readonly projectId: number; readonly reservePercent: number }) {
  const holidays = new Set(holidaysOf(tx, of.projectId).map(({ day }) => day))
  const kept = 1 - of.reservePercent / 100
  return (day: string, capacity: Parameters<typeof minutesOn>[1]): number =>
    holidays.has(day) ? 0 : Math.round(minutesOn(day, capacity) * kept)
}

interface HandsAsked {
  readonly projectId: number
  readonly people: readonly string[]
  /** What is planned in these is not elsewhere. */
  readonly runs: readonly number[]
  readonly reservePercent: number
}

/** What people can give on some days; a person's day is the same day in every run and project they serve in. */
export function handsOf(tx: Tx, of: HandsAsked, days: readonly string[]): Hand[] {
  const team = new Set(of.people)
  const given = givenIn(tx, of)
  return staffOf(tx, of.projectId)
    .filter(({ id, ended }) => team.has(id) && !ended)
    .map(({ id, name, skills }) => {
      const capacity = capacityOf(tx, of.projectId, id)
      const absences = absencesOf(tx, id, days[0] ?? '')
      const planned = plannedElsewhere(tx, id, of.runs, days)
      return {
        id,
        name,
        skills,
        minutes: days.map((day) => (capacity ? given(day, { ...capacity, absences }) : 0)),
        busy: days.map((day) => planned.get(day) ?? 0),
      }
    })
}

/** Minutes of items on somebody's days that are in other runs, of whatever project, and still to be executed. */
const plannedElsewhere = (
  tx: Tx,
  personId: string,
  runs: readonly number[],
  days: readonly string[],
): Map<string, number> =>
  new Map(
    rowsOf(
      tx,
      { day: text, minutes: int },
      sql`
        select w.day, sum(${placedMinutes}) as minutes
        from item_place w
        join item i on i.id = w.item_id
        join test_case c on c.id = i.case_id
        join run r on r.id = i.run_id
        where w.person_id = ${personId}
          and w.day between ${days[0] ?? ''} and ${days.at(-1) ?? ''}
          and not ${inIds(sql`i.run_id`, runs)}
          and i.deleted_at is null
          and i.verdict in ('Not run', 'In progress')
          and r.state in ('Planned', 'Open')
          and r.deleted_at is null
        group by w.day`,
    ).map(({ day, minutes }) => [day, minutes]),
  )

/** Open runs that somebody is to execute something of: of their team, or with an item that is theirs; the newest first. */
export const openRunsFor = (tx: Tx, projectId: number, personId: string): number[] =>
  rowsOf(
    tx,
    { number: int },
    sql`
      select r.number
      from run r
      where r.project_id = ${projectId}
        and r.state = 'Open'
        and r.deleted_at is null
        and (
          exists (select 1 from run_person p where p.run_id = r.id and p.person_id = ${personId})
          or exists (select 1 from item i where i.run_id = r.id and i.assignee_id = ${personId} and i.deleted_at is null)
        )
      order by r.number desc
      limit ${mostRuns}`,
  ).map(({ number }) => number)

/** Runs of a plan that go on or are to, the newest first. */
export const goingRunsOf = (tx: Tx, planId: number): number[] =>
  rowsOf(
    tx,
    { number: int },
    sql`
      select number
      from run
      where plan_id = ${planId} and state in ('Planned', 'Open') and deleted_at is null
      order by number desc
      limit ${mostRuns}`,
  ).map(({ number }) => number)
/** So many runs are looked through for what is worth most. */
const mostRuns = 8
