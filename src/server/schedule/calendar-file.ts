import ical, { type ICalCalendar } from 'ical-generator'
import { dayAfter, dayIn } from '#core/lib/days.ts'
import { counted, minutesText, sumOf } from '#core/lib/figures.ts'
import { groupBy } from '#core/lib/group.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { readCalendarFile as contract } from '#core/schedule/calendar-contract.ts'
import { isFinal } from '#core/lib/verdict.ts'
import { findPerson } from '#db/people/people.ts'
import { findProjectById, type ProjectRow } from '#db/projects/projects.ts'
import { runById, type RunStored } from '#db/runs/runs.ts'
import { addressAt, type CalendarAddressStored, noteAddressUse } from '#db/schedule/addresses.ts'
import { dueBetween, placedBetween } from '#db/schedule/calendar.ts'
import type { Tx } from '#db/open.ts'
import { roleOf } from '#server/http/permission.ts'
import type { Input, OpenContext } from '#server/http/route.ts'
import { hashOf } from '#server/http/secret.ts'

/** So many days before today and from it on are told. */
const [past, coming] = [14, 120]
/** That it was read is noted to the minute. */
const noteEvery = 60_000

/** Days of a person or of a run for a calendar program. An address that was revoked, and one of who left, tells nothing. */
export function readCalendarFile(
  { services, request, store }: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Response> {
  const { db } = services
  const now = services.now()
  const address = addressAt(db, hashOf(query.of))
  const project = address && findProjectById(db, address.projectId)
  const person = address && findPerson(db, address.personId)
  const run = address?.runId ? runById(db, address.runId) : null
  const gone = run === undefined || (run && run.deletedAt !== null)
  if (!address || !project || !person || gone || roleOf(db, project, { person, limit: null }) === null)
    throw new Refusal('not-found', 'There is no calendar at this address, or it was revoked.')
  store(({ tx }) => noteAddressUse(tx, address, now, noteEvery))
  const text = calendarText(db, { address, project, run, name: person.name, origin: new URL(request.url).origin, now })
  return Promise.resolve(
    new Response(text, {
      headers: {
        'content-type': 'text/calendar; charset=utf-8',
        'content-disposition': `inline; filename="${run ? keyOf('run', run.number) : project.key}.ics"`,
      },
    }),
  )
}

interface CalendarOf {
  readonly address: Pick<CalendarAddressStored, 'personId'>
  readonly project: ProjectRow
  readonly run: RunStored | null
  readonly name: string
  readonly origin: string
  readonly now: number
}

function calendarText(tx: Tx, { address, project, run, name, origin, now }: CalendarOf): string {
  const today = dayIn(project.timeZone, now)
  const of = {
    projectId: project.id,
    person: run ? null : address.personId,
    runId: run?.id ?? null,
    from: dayAfter(today, -past),
    to: dayAfter(today, coming),
  }
  const title = run ? `${keyOf('run', run.number)} ${run.title}` : `${name}, ${project.name}`
  const calendar = ical({ name: title, prodId: { company: 'Rovant', product: 'Rovant', language: 'EN' } })
  const add = adder(calendar, { now, origin: `${origin}/p/${project.key}` })
  if (run)
    add({ id: keyOf('run', run.number), on: [run.startOn, run.endOn], words: title, at: keyOf('run', run.number) })
  const days = groupBy(placedBetween(tx, of), (each) => `${each.day} ${each.run} ${each.person}`)
  for (const [id, all] of days) {
    const [first] = all
    if (!first) continue
    const left = all.filter(({ verdict }) => !isFinal(verdict))
    const rest = left.length < all.length ? `, ${all.length - left.length} done` : ''
    const work = `${counted(left.length, 'item')}, ${minutesText(sumOf(left, ({ minutes }) => minutes))}${rest}`
    add({
      id: id.replaceAll(' ', '-'),
      on: [first.day, first.day],
      words: run ? `${first.name}: ${work}` : `${first.runTitle}: ${work}`,
      at: first.run,
      lines: all.map(({ verdict, minutes, environment, ...item }) => {
        const stands = isFinal(verdict) ? verdict : `${minutes} min`
        return `${item.case} ${item.title}, ${environment}, ${stands}`
      }),
    })
  }
  for (const { day, items, ...due } of dueBetween(tx, of))
    add({
      id: `due-${day}-${due.run}`,
      on: [day, day],
      words: `Due: ${counted(items, 'item')} of ${due.title}`,
      at: due.run,
    })
  return calendar.toString()
}

interface Day {
  readonly id: string
  /** Its first and its last day. */
  readonly on: readonly [string, string]
  readonly words: string
  /** Key of what it leads to. */
  readonly at: string
  readonly lines?: readonly string[]
}

/** Whole days: they belong to no time zone, and end before the day after. */
const adder =
  (calendar: ICalCalendar, { now, origin }: { readonly now: number; readonly origin: string }) =>
  ({ id, on: [from, to], words, at, lines = [] }: Day): void => {
    calendar.createEvent({
      // The same wherever it is read from: a program that knows it already changes it.
      id: `${id}-${origin.split('/').at(-1) ?? ''}@rovant`.toLowerCase(),
      stamp: new Date(now),
      allDay: true,
      start: from,
      end: dayAfter(to, 1),
      summary: words,
      url: `${origin}/${at}`,
      ...(lines.length > 0 && { description: lines.join('\n') }),
    })
  }
