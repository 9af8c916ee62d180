import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idsOf } from '#core/lib/owned.ts'
import { id, none, projectParams, refParams } from '#core/lib/shapes.ts'
import { runStates } from '#core/runs/state.ts'
import { minutesSources } from './estimates.ts'
import { heldSides } from './held.ts'

const runs = '/projects/:key/runs'
const minutes = z.number().int().min(0).max(10_000_000)
const day = z.iso.date()
/** Where an item is on somebody's day. */
const place = z.object({
  item: id,
  person: z.string(),
  day,
  /** Minutes from when the day begins. */
  start: minutes,
  minutes,
  pinned: z.boolean(),
})
export type PlacedItem = z.infer<typeof place>

const hand = z.object({
  id: z.string(),
  name: z.string(),
  skills: z.array(z.string()),
  /** Of each day: what they can give, what other runs and projects have of it, and what this run has. */
  minutes: z.array(z.number()),
  busy: z.array(z.number()),
  placed: z.array(z.number()),
})
export type HandShown = z.infer<typeof hand>

const stake = z.object({
  plan: z.string(),
  words: z.string(),
  wanted: z.string(),
  now: z.string(),
  /** The figure if everything above the line passes, and if all of it does. */
  above: z.string(),
  all: z.string(),
})

/** What a line is drawn over: a run, the runs of a plan that go on, or what is one's own. */
const lineKinds = ['run', 'plan', 'day'] as const
const lineAnswer = z.object({
  about: z.object({
    kind: z.enum(lineKinds),
    /** Of the run or the plan. */
    key: z.string().nullable(),
    title: z.string(),
    startOn: day,
    endOn: day,
  }),
  /** Where its items are. */
  runs: z.array(
    z.object({
      key: z.string(),
      title: z.string(),
      state: z.enum(runStates),
      startOn: day,
      endOn: day,
      /** What is kept for retests, in per cent; whether that is its own, or its project's. */
      reserve: z.number(),
      ownReserve: z.boolean(),
      team: z.array(z.string()),
      version: z.number(),
    }),
  ),
  days: z.array(day),
  /** Of days that are over: items that were to be executed by then and were not. */
  slipped: z.array(z.object({ item: id, person: z.string(), day })),
  /** What cannot be planned as it is, each at its item, person or day. */
  problems: z.array(z.object({ item: id.nullable(), words: z.string() })),
  /** Items still to be executed, as they are shown: above the line, then below; the lists beside it are in the same order. */
  ids: z.array(id),
  /** Place of its run among `runs`. */
  runOf: z.array(z.number()),
  keys: z.array(z.string()),
  titles: z.array(z.string()),
  environments: z.array(z.string()),
  assignees: z.array(z.string().nullable()),
  minutes: z.array(z.number()),
  sources: z.array(z.enum(minutesSources)),
  /** Worth of each by itself, and what it adds to those before it. */
  worth: z.array(z.number()),
  adds: z.array(z.number()),
  /** The risk each adds to what those before it cover. */
  risk: z.array(z.number()),
  why: z.array(z.string()),
  /** What each term leaves of the chance of learning nothing: history, changed, open defect, retest, trust. */
  leaves: z.array(z.array(z.number())),
  /** The risk it answers, with its importance; and how many drafting targets its case answers. */
  shares: z.array(z.number()),
  targets: z.array(z.number()),
  held: z.array(z.enum(heldSides).nullable()),
  above: z.number(),
  /** Minutes above the line, and the hours the team has from today on. */
  line: z.number(),
  hours: z.number(),
  drawn: z.boolean(),
  reached: z.object({ worth: z.number(), bound: z.number(), whole: z.number(), cost: z.number().nullable() }),
  /** Touched above the line, and those that only what is below it would touch. */
  requirements: z.object({ above: z.number(), below: z.number() }),
  rate: z.number(),
  hands: z.array(hand),
  places: z.array(place),
  seats: z.array(z.object({ environment: z.string(), seats: z.number(), minutes: z.number() })),
  criteria: z.object({ stake: z.array(stake), met: z.number(), of: z.number() }),
})
export type LineAnswer = z.infer<typeof lineAnswer>

/** Minutes above the line, to look at; else as it is drawn, else the hours there are. */
const lineQuery = z.object({ minutes: z.coerce.number().int().min(0).max(10_000_000).optional() })
export const readLine = contract({
  name: 'readLine',
  method: 'GET',
  path: `${runs}/:ref/line`,
  permission: 'read',
  summary:
    'What a run’s open items are worth now, which of them fit into the time there is, what is given up below the line, and the people’s days',
  params: refParams('run'),
  query: lineQuery,
  body: none,
  output: lineAnswer,
})
export const readPlanLine = contract({
  name: 'readPlanLine',
  method: 'GET',
  path: '/projects/:key/plans/:ref/line',
  permission: 'read',
  summary: 'The same over all runs of a plan that go on, with the hours of everybody who is of one of their teams',
  params: refParams('plan'),
  query: lineQuery,
  body: none,
  output: lineAnswer,
})
export const readOwnLine = contract({
  name: 'readOwnLine',
  method: 'GET',
  path: '/projects/:key/own-line',
  permission: 'read',
  summary: 'The same over what is one’s own and waits for nothing, with the minutes one has today',
  params: projectParams,
  query: lineQuery,
  body: none,
  output: lineAnswer,
})
export const drawRunLine = contract({
  name: 'drawRunLine',
  method: 'PUT',
  path: `${runs}/:ref/line`,
  permission: 'leadRuns',
  summary: 'Draw the line of a run at some minutes; `null`: where the hours of the team end',
  params: refParams('run'),
  query: none,
  body: z.object({ minutes: minutes.nullable() }),
  output: z.object({ before: z.number().nullable() }),
})
export const holdAtLine = contract({
  name: 'holdAtLine',
  method: 'POST',
  path: `${runs}/:ref/line/held`,
  permission: 'leadRuns',
  summary: 'Put items above or below the line by hand, or leave them to it again; answers what each was before',
  params: refParams('run'),
  query: none,
  body: z.object({
    sides: z
      .array(z.object({ ids: idsOf('item', 20_000), side: z.enum(heldSides).nullable() }))
      .min(1)
      .max(3),
  }),
  output: z.object({
    before: z.array(z.object({ ids: z.array(id), side: z.enum(heldSides).nullable() })),
  }),
})
const levelAnswer = z.object({
  /** What it was worked out from: applying it is refused once that has changed. */
  basis: z.string(),
  places: z.array(place),
  worth: z.number(),
  bound: z.number(),
  /** What is different from how it is planned now. */
  moved: z.number(),
  placed: z.number(),
  taken: z.number(),
  stays: z.number(),
  /** What finds no place, and why: the first of them. */
  cut: z.array(z.object({ item: id, why: z.string() })),
  cutTotal: z.number(),
})
export type LevelAnswer = z.infer<typeof levelAnswer>
/** Where some items are, and whose they are; nothing else is touched by putting it back. */
const placing = z.object({
  places: z.array(place).max(20_000),
  /** Items on nobody's day. */
  off: z.array(id).max(20_000),
  assignees: z.array(z.object({ item: id, person: z.string().nullable() })).max(20_000),
})
export type PlacingStored = z.infer<typeof placing>
export const restoreOnDays = contract({
  name: 'restoreOnDays',
  method: 'PUT',
  path: `${runs}/:ref/days/items`,
  permission: 'leadRuns',
  summary: 'Put some items where they were, exactly, and give them to whom they were given',
  params: refParams('run'),
  query: none,
  body: placing,
  output: z.object({ restored: z.number() }),
})
export const levelRun = contract({
  name: 'levelRun',
  method: 'POST',
  path: `${runs}/:ref/level`,
  permission: 'leadRuns',
  summary: 'Work out on whose day each item goes, without storing anything; what was begun or pinned stays',
  params: refParams('run'),
  query: none,
  body: z.object({
    /** Only what is above the line; else everything. */
    above: z.boolean().default(true),
  }),
  output: levelAnswer,
})
export const placeOnDays = contract({
  name: 'placeOnDays',
  method: 'PUT',
  path: `${runs}/:ref/days`,
  permission: 'leadRuns',
  summary:
    'Put items on people’s days as a whole, and assign them; refused when what it was worked out from has changed. Answers what was before, for `restoreOnDays`',
  params: refParams('run'),
  query: none,
  body: z.object({
    basis: z.string().max(80),
    places: z.array(place).max(20_000),
  }),
  output: z.object({ before: placing, told: z.number() }),
})
export const moveOnDays = contract({
  name: 'moveOnDays',
  method: 'POST',
  path: `${runs}/:ref/days/move`,
  permission: 'leadRuns',
  summary:
    'Put some items at the end of somebody’s day and pin them there; without a person they are on nobody’s day any more',
  params: refParams('run'),
  query: none,
  body: z.object({
    ids: idsOf('item', 500),
    to: z.object({ person: z.string().min(1).max(100), day }).nullable(),
  }),
  output: z.object({
    before: placing,
    /** Minutes the day is over then; 0 where it is not. */
    over: z.number(),
  }),
})

export const readNextBest = contract({
  name: 'readNextBest',
  method: 'GET',
  path: '/projects/:key/next-best',
  permission: 'read',
  summary: 'Which open item, of one’s own or free to take, is worth most for its minutes now, and why',
  params: projectParams,
  /** Not this one, which is being executed. */
  query: z.object({ not: z.coerce.number().int().optional() }),
  body: none,
  output: z.object({
    /** `null`: nothing is there for this person. */
    best: z
      .object({
        item: id,
        run: z.string(),
        case: z.string(),
        title: z.string(),
        environment: z.string(),
        minutes: z.number(),
        worth: z.number(),
        why: z.string(),
        free: z.boolean(),
      })
      .nullable(),
    /** How many it was chosen among. */
    among: z.number(),
  }),
})
export type NextBest = z.infer<typeof readNextBest.output>
