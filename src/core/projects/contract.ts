import { ownVerdict } from '#core/lib/verdict.ts'
import { reserve } from './reserve.ts'
import { policy, verdictReason } from '#core/projects/policy.ts'
import { z } from 'zod'
import { worthWeights } from './weights.ts'
import { dealingWays } from './dealing-ways.ts'
import { contract } from '#core/lib/contract.ts'
import { buildStates } from './builds.ts'
import { personShape, role } from '#core/people/contract.ts'
import { openItem } from '#core/people/members-contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { done, id, idParams, line, none, plainDate, projectParams, scopeQuery } from '#core/lib/shapes.ts'

export const releaseStates = ['Planned', 'In test', 'Shipped'] as const
const release = z.object({
  id,
  name: z.string(),
  state: z.enum(releaseStates),
  startOn: z.string().nullable(),
  dueOn: z.string().nullable(),
  position: z.number(),
})
const iteration = z.object({
  id,
  release: id,
  name: z.string(),
  startOn: z.string().nullable(),
  dueOn: z.string().nullable(),
  position: z.number(),
})
const build = z.object({
  id,
  release: id,
  name: z.string(),
  state: z.enum(buildStates),
  position: z.number(),
  offeredAt: z.number(),
})
const environment = z.object({
  id,
  name: z.string(),
  isAny: z.boolean(),
  seats: z.number().nullable(),
  values: z.record(z.string(), z.string()),
  address: z.string(),
  /** Its newest outage: from when it is not to be used, until when if that is known, and why. */
  outage: z.object({ id, fromAt: z.number(), untilAt: z.number().nullable(), reason: z.string() }).nullable(),
})
const holiday = z.object({ day: z.iso.date(), name: line(80) })
const projectShape = z.object({
  /** The project's own verdicts beside the five. */
  verdictKinds: z.array(ownVerdict),
  /** What may be given as a reason for a verdict. */
  reasons: z.array(verdictReason),
  /** The rules its runs are executed under, unless a run has its own; counted up by whoever changes them. */
  policy,
  policyVersion: z.number(),
  id,
  key: z.string(),
  name: z.string(),
  product: z.string(),
  timeZone: z.string(),
  freshnessDays: z.number(),
  approvalRequired: z.boolean(),
  /** To whom the items of a new run go, unless it is said otherwise. */
  dealing: z.enum(dealingWays),
  reasonAsked: z.boolean(),
  secondFactorAsked: z.boolean(),
  /** Days of the week that are worked, with commas; Monday is 1. */
  workingDays: z.string(),
  /** Days on which nobody works. */
  holidays: z.array(holiday),
  /** Minutes it takes when a person's environment changes within a day. */
  switchMinutes: z.number(),
  /** The part of everybody's time, in per cent, that is kept for retests. */
  reservePercent: z.number(),
  /** What the worth of an item is weighed by. */
  weights: worthWeights,
  role,
  releases: z.array(release),
  iterations: z.array(iteration),
  builds: z.array(build),
  environments: z.array(environment),
  people: z.array(
    personShape.extend({
      email: z.string(),
      role,
      skills: z.array(z.string()),
      /** The part of their time, in per cent, that is for this project. */
      sharePercent: z.number(),
      /** Of a day on which they are not away. */
      minutesPerDay: z.number(),
      /** They may not come in any more; what they did and own is theirs still. */
      ended: z.boolean(),
    }),
  ),
  components: z.array(z.string()),
})
export type Project = z.infer<typeof projectShape>

export const readProject = contract({
  name: 'readProject',
  method: 'GET',
  path: '/projects/:key',
  permission: 'read',
  summary: 'A project with its releases, iterations, builds, environments and people',
  params: projectParams,
  query: none,
  body: none,
  output: projectShape,
})
export const createProject = contract({
  name: 'createProject',
  method: 'POST',
  path: '/projects',
  permission: 'addProjects',
  summary: 'Start a project',
  params: none,
  query: none,
  output: z.object({ key: z.string() }),
  body: z.object({
    key: projectParams.shape.key,
    name: line(100),
    product: line(100),
    timeZone: z.string().max(60).default('UTC'),
  }),
})
export const updateProject = contract({
  name: 'updateProject',
  method: 'PATCH',
  path: '/projects/:key',
  permission: 'setUp',
  summary: 'Change how a project works',
  params: projectParams,
  query: none,
  body: z
    .object({
      name: line(100),
      freshnessDays: z.number().min(1).max(1000),
      approvalRequired: z.boolean(),
      dealing: z.enum(dealingWays),
      reasonAsked: z.boolean(),
      secondFactorAsked: z.boolean(),
      workingDays: z.string().regex(/^[1-7](,[1-7]){0,6}$/, 'are numbers of days of the week with commas, Monday is 1'),
      switchMinutes: z.number().int().min(0).max(480),
      reservePercent: reserve,
      weights: worthWeights,
    })
    .partial(),
  output: z.object({ ok: z.literal(true) }),
})
export const setHolidays = contract({
  name: 'setHolidays',
  method: 'PUT',
  path: '/projects/:key/holidays',
  permission: 'setUp',
  summary: 'The days on which nobody of a project works, all of them; answers what they were before',
  params: projectParams,
  query: none,
  body: z.object({ days: z.array(holiday).max(400) }),
  output: z.object({ before: z.array(holiday) }),
})
const trackerPath = { path: '/projects/:key/tracker', params: projectParams, query: none } as const
export const readTracker = contract({
  ...trackerPath,
  name: 'readTracker',
  method: 'GET',
  permission: 'read',
  summary: 'The outside tracker of the project; `token` says whether one is set',
  body: none,
  output: z.object({ name: z.string(), url: z.string(), token: z.boolean() }),
})
export const setTracker = contract({
  ...trackerPath,
  name: 'setTracker',
  method: 'PUT',
  permission: 'setUp',
  summary: 'Connect a tracker; an empty address takes it away',
  body: z.object({
    name: z.string().trim().max(60),
    url: z.union([z.literal(''), z.url({ protocol: /^https?$/, error: 'an address begins with http:// or https://' })]),
    token: z.string().max(400).optional(),
  }),
  output: z.object({ ok: z.literal(true) }),
})
const dated = { startOn: plainDate.nullable().default(null), dueOn: plainDate.nullable().default(null) }
export const createRelease = contract({
  name: 'createRelease',
  method: 'POST',
  path: '/projects/:key/releases',
  permission: 'setUp',
  summary: 'Add a release',
  params: projectParams,
  query: none,
  body: z.object({ name: line(60), state: z.enum(releaseStates).default('Planned'), ...dated }),
  output: z.object({ id }),
})
export const updateRelease = contract({
  name: 'updateRelease',
  method: 'PATCH',
  path: '/projects/:key/releases/:id',
  permission: 'setUp',
  summary: 'Change a release; the plans of one that has shipped answer from then on as they stood',
  params: idParams('release'),
  query: none,
  body: z
    .object({
      name: line(60),
      state: z.enum(releaseStates),
      startOn: plainDate.nullable(),
      dueOn: plainDate.nullable(),
    })
    .partial(),
  output: done,
})
export const createIteration = contract({
  name: 'createIteration',
  method: 'POST',
  path: '/projects/:key/iterations',
  permission: 'setUp',
  summary: 'Add an iteration to a release',
  params: projectParams,
  query: none,
  body: z.object({ release: idOf('release'), name: line(60), ...dated }),
  output: z.object({ id }),
})
export const createEnvironment = contract({
  name: 'createEnvironment',
  method: 'POST',
  path: '/projects/:key/environments',
  permission: 'setUp',
  summary: 'Add an environment',
  params: projectParams,
  query: none,
  body: z.object({
    name: line(60),
    seats: z.number().int().min(1).nullable().default(null),
    values: z.record(line(40), line(60)).default({}),
  }),
  output: z.object({ id }),
})

const meter = z.object({
  slots: z.number(),
  verdicts: z.record(z.string(), z.number()),
  stale: z.record(z.string(), z.number()),
  words: z.record(z.string(), z.number()),
  passing: z.object({
    recorded: z.number().nullable(),
    current: z.number().nullable(),
    confident: z.number().nullable(),
  }),
})
export type Meter = z.infer<typeof meter>
const frameShape = z.object({
  counts: z.object({
    requirements: z.number(),
    cases: z.number(),
    plans: z.number(),
    runs: z.number(),
    defects: z.number(),
    reports: z.number(),
  }),
  meter,
  /** Exit criteria that speak for the scope: how many are met; `null` where there are none. */
  criteria: z.object({ met: z.number(), of: z.number(), waived: z.number() }).nullable(),
  lastChange: z.number(),
})
export type Frame = z.infer<typeof frameShape>
export const readFrame = contract({
  name: 'readFrame',
  method: 'GET',
  path: '/projects/:key/frame',
  permission: 'read',
  summary: 'What wants attention at each station, and the result meter of a scope',
  params: projectParams,
  query: scopeQuery,
  body: none,
  output: frameShape,
})

const todayItem = openItem.extend({
  importance: z.string(),
  /** The day of one's own that it was put on. */
  plannedOn: z.string().nullable(),
})
const todayShape = z.object({
  queue: z.array(todayItem),
  queueMinutes: z.number(),
  queueTotal: z.number(),
  capacityMinutes: z.number(),
  doneMinutes: z.number(),
  doneToday: z.number(),
  retests: z.array(
    z.object({
      ref: z.string(),
      title: z.string(),
      severity: z.string(),
      fixedIn: z.string().nullable(),
      item: id.nullable(),
      run: z.string().nullable(),
    }),
  ),
  reviews: z.array(
    z.object({ ref: z.string(), title: z.string(), version: z.string(), by: z.string().nullable(), at: z.number() }),
  ),
  changes: z.array(
    z.object({
      at: z.number(),
      person: z.string().nullable(),
      kind: z.string(),
      ref: z.string(),
      action: z.string(),
      title: z.string().nullable(),
    }),
  ),
  since: z.object({ results: z.number(), failed: z.number(), defects: z.number(), cases: z.number() }),
  /** It is the sample project, and something tells what is in it. */
  sample: z.boolean(),
})
export type Today = z.infer<typeof todayShape>
export const readToday = contract({
  name: 'readToday',
  method: 'GET',
  path: '/projects/:key/today',
  permission: 'read',
  summary: 'A person’s first page: queue, retests, reviews, what changed since yesterday',
  params: projectParams,
  query: scopeQuery,
  body: none,
  output: todayShape,
})

/** What is in the sample project to look at: where, what is seen there, and what it is good for. */
const sampleSight = z.object({
  /** The key of an object, or a place of the project such as `reports/gaps`. */
  place: z.string(),
  title: z.string(),
  told: z.string(),
})
export const sample = z.object({
  /** When it was filled; what was changed since may be otherwise. */
  filledAt: z.number(),
  /** Where the application that it tests can be tried; `null`: it does not run. */
  desk: z.string().nullable(),
  sights: z.array(sampleSight),
})
export type Sample = z.infer<typeof sample>
export const readSample = contract({
  name: 'readSample',
  method: 'GET',
  path: '/projects/:key/sample',
  permission: 'read',
  summary: 'What is in the sample project to look at; 404 in every other project',
  params: projectParams,
  query: none,
  body: none,
  output: sample,
})
