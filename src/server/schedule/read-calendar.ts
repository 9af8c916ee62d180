import { dayAfter, dayIn, daysBetween, weekdayOf } from '#core/lib/days.ts'
import { groupBy } from '#core/lib/group.ts'
import {
  type Calendar,
  type listDayItems as itemsContract,
  readCalendar as contract,
} from '#core/schedule/calendar-contract.ts'
import { mostCalendarDays } from '#core/schedule/calendar-contract.ts'
import { staffOf } from '#db/people/members.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { holidaysOf } from '#db/projects/holidays.ts'
import {
  countOfDay,
  countOfRuns,
  dayItems,
  goingRuns,
  loadsBetween,
  marksBetween,
  runsBetween,
  seatsBetween,
} from '#db/schedule/calendar.ts'
import { handsOf } from '#db/schedule/team.ts'
import type { Context } from '#server/http/context.ts'
import { replyWith } from '#server/http/reply.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { calendarJob } from '#server/workers/questions.ts'
import type { Reading } from './line-over.ts'

/** The same on a thread of its own: months of many people take a while. */
export async function readCalendar(
  { services, project }: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Response> {
  const asked = { projectId: project.id, now: services.now(), ...query }
  return replyWith(contract, await services.jobs.run(calendarJob, asked))
}

/** What is planned on some days: by people, by runs, and what the days are known by. */
export function calendarOf(
  { tx, project, now }: Reading,
  query: { readonly from: string; readonly days: number },
): Calendar {
  const days = daysBetween(query.from, dayAfter(query.from, query.days - 1), mostCalendarDays)
  const between = { from: query.from, to: days.at(-1) ?? query.from }
  const holidays = new Map(holidaysOf(tx, project.id).map(({ day, name }) => [day, name]))
  const works = project.workingDays.split(',')
  const people = staffOf(tx, project.id)
    .filter(({ ended, role }) => !ended && role !== 'viewer')
    .map(({ id }) => id)
  const asked = {
    projectId: project.id,
    people,
    runs: goingRuns(tx, project.id),
    reservePercent: project.reservePercent,
  }
  const loads = loadsBetween(tx, { ...between, ...asked })
  const runs = runsBetween(tx, project.id, between)
  const planned = new Set(loads.map(({ person }) => person))
  return {
    today: dayIn(project.timeZone, now),
    days: days.map((day) => ({
      day,
      working: works.includes(String(weekdayOf(day))) && !holidays.has(day),
      holiday: holidays.get(day) ?? null,
    })),
    marks: [
      ...buildMarks(projectDetail(tx, project, 'viewer').builds, project.timeZone, days),
      ...marksBetween(tx, project.id, between),
    ],
    people: handsOf(tx, asked, days)
      .filter(({ id, minutes }) => planned.has(id) || minutes.some((each) => each > 0))
      .map((hand) => ({ ...hand, skills: [...hand.skills], minutes: [...hand.minutes], busy: [...hand.busy] })),
    loads,
    runs,
    moreRuns: countOfRuns(tx, project.id, between) - runs.length,
    seats: [...groupBy(seatsBetween(tx, { ...between, ...asked }), ({ environment }) => environment)].map(
      ([environment, all]) => ({
        environment,
        seats: all[0]?.seats ?? 0,
        minutes: days.map((day) => all.find((each) => each.day === day)?.minutes ?? 0),
      }),
    ),
  }
}

function buildMarks(
  builds: readonly { readonly name: string; readonly offeredAt: number }[],
  timeZone: string,
  days: readonly string[],
): Calendar['marks'] {
  const known = new Set(days)
  return builds
    .map(({ name, offeredAt }) => ({ day: dayIn(timeZone, offeredAt), kind: 'build' as const, words: name, key: null }))
    .filter(({ day }) => known.has(day))
}

export function listDayItems(
  { tx, project }: Context,
  { query }: Input<typeof itemsContract>,
): Answer<typeof itemsContract> {
  const { person, day, limit, cursor } = query
  const of = { projectId: project.id, person, day }
  const rows = dayItems(tx, of, { limit, cursor })
  const total = countOfDay(tx, of)
  const next = cursor + rows.length
  return { rows, total, next: next < total ? next : null }
}
