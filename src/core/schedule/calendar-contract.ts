import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { verdict } from '#core/lib/verdict.ts'
import { done, id, idParams, keyShape, none, plainDate, projectParams } from '#core/lib/shapes.ts'
import { memberId } from '#core/lib/owned.ts'
import { runStates } from '#core/runs/state.ts'
import { numberIn } from '#core/lib/key.ts'

// Days of people, weeks of runs, and addresses calendar programs read them at.

const base = '/projects/:key/calendar'
/** So many days are looked at together at most. */
export const mostCalendarDays = 126
const markKinds = ['build', 'release', 'iteration', 'milestone', 'due'] as const

const calendar = z.object({
  today: plainDate,
  days: z.array(
    z.object({
      day: plainDate,
      /** Worked by the project; a holiday is not. */
      working: z.boolean(),
      holiday: z.string().nullable(),
    }),
  ),
  marks: z.array(
    z.object({
      day: plainDate,
      kind: z.enum(markKinds),
      words: z.string(),
      /** Of what it belongs to, where that has a key. */
      key: z.string().nullable(),
    }),
  ),
  people: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      skills: z.array(z.string()),
      /** Of each day: what they can give to the project, and what is planned in others. */
      minutes: z.array(z.number()),
      busy: z.array(z.number()),
    }),
  ),
  /** What is on somebody's day, run by run: items still to be executed, those pinned among them, and those that are done. */
  loads: z.array(
    z.object({
      person: z.string(),
      day: plainDate,
      run: z.string(),
      items: z.number(),
      minutes: z.number(),
      pinned: z.number(),
      done: z.number(),
    }),
  ),
  runs: z.array(
    z.object({
      key: z.string(),
      title: z.string(),
      state: z.enum(runStates),
      startOn: plainDate,
      endOn: plainDate,
      version: z.number(),
      /** Items still to be executed, and their minutes; those on somebody's day. */
      items: z.number(),
      minutes: z.number(),
      placed: z.number(),
      all: z.number(),
    }),
  ),
  /** More runs than are shown lie in these days. */
  moreRuns: z.number(),
  /** Of each environment with seats, each day: minutes planned in it. */
  seats: z.array(z.object({ environment: z.string(), seats: z.number(), minutes: z.array(z.number()) })),
})
export type Calendar = z.infer<typeof calendar>

export const readCalendar = contract({
  name: 'readCalendar',
  method: 'GET',
  path: base,
  permission: 'read',
  summary:
    'Days of people and weeks of runs: what is planned on them, builds, milestones, due days, absences and seats, from a day on',
  params: projectParams,
  query: z.object({ from: plainDate, days: z.coerce.number().int().min(1).max(mostCalendarDays).default(14) }),
  body: none,
  output: calendar,
})

const dayItem = z.object({
  id,
  person: z.string(),
  name: z.string(),
  day: plainDate,
  run: z.string(),
  runTitle: z.string(),
  case: z.string(),
  title: z.string(),
  environment: z.string(),
  minutes: z.number(),
  start: z.number(),
  pinned: z.boolean(),
  dueOn: z.string().nullable(),
  verdict,
})
export type DayItem = z.infer<typeof dayItem>
export const listDayItems = contract({
  name: 'listDayItems',
  method: 'GET',
  path: `${base}/items`,
  permission: 'read',
  summary: 'What is on somebody’s day in this project, in its order',
  params: projectParams,
  query: z.object({
    person: memberId,
    day: plainDate,
    limit: z.coerce.number().int().min(1).max(500).default(200),
    cursor: z.coerce.number().int().min(0).default(0),
  }),
  body: none,
  output: z.object({ rows: z.array(dayItem), total: z.number(), next: z.number().nullable() }),
})

const address = z.object({
  id,
  /** Of a run; else it tells one's own days. */
  run: z.object({ key: z.string(), title: z.string() }).nullable(),
  at: z.number(),
  /** When a program last read it. */
  readAt: z.number().nullable(),
})
/** So many addresses one has in a project. */
export const mostAddresses = 20
export const listCalendarAddresses = contract({
  name: 'listCalendarAddresses',
  method: 'GET',
  path: `${base}/addresses`,
  permission: 'read',
  summary: 'One’s own addresses for calendar programs in this project; at most twenty',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({ rows: z.array(address) }),
})
export const createCalendarAddress = contract({
  name: 'createCalendarAddress',
  method: 'POST',
  path: `${base}/addresses`,
  permission: 'read',
  summary:
    'An address nobody can guess, at which a calendar program reads one’s own days, or those of a run, without signing in; it is told once',
  params: projectParams,
  query: none,
  body: z.object({
    run: keyShape('run')
      .transform((key) => numberIn('run', key))
      .nullable(),
  }),
  output: z.object({ path: z.string() }),
})
export const revokeCalendarAddress = contract({
  name: 'revokeCalendarAddress',
  method: 'DELETE',
  path: `${base}/addresses/:id`,
  permission: 'read',
  summary: 'Revoke an address of one’s own: nothing is read at it any more',
  params: idParams('calendar_address'),
  query: none,
  body: none,
  output: done,
})
export const readCalendarFile = contract({
  name: 'readCalendarFile',
  method: 'GET',
  path: '/calendar.ics',
  permission: 'open',
  summary: 'Days of a person or of a run as an iCalendar file (RFC 5545), for who has its address',
  params: none,
  query: z.object({ of: z.string().min(20).max(100) }),
  body: none,
  output: z.unknown(),
  raw: true,
})
