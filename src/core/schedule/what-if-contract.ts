import { z } from 'zod'
import { reserve } from '#core/projects/reserve.ts'
import { contract } from '#core/lib/contract.ts'
import { idOf, idsOf, memberId } from '#core/lib/owned.ts'
import { done, id, idParams, line, none, orUndo, plainDate, refParams } from '#core/lib/shapes.ts'
import { runStates } from '#core/runs/state.ts'
import { heldSides } from './held.ts'

// Another way a run could go, beside the way it goes.

const runs = '/projects/:key/runs'

/** What is different; what is empty or `null` stays as the run has it. */
const changesShape = z.object({
  /** People of the project who join its team. */
  join: z.array(memberId).max(20),
  /** So many testers more whom nobody has named yet, with the hours a new person has. */
  more: z.number().int().min(0).max(20),
  endOn: plainDate.nullable(),
  /** Environments nothing is executed in. */
  without: z.array(idOf('environment')).max(100),
  reservePercent: reserve.nullable(),
})
export type Changes = z.infer<typeof changesShape>
export const noChanges: Changes = { join: [], more: 0, endOn: null, without: [], reservePercent: null }
/** So many ways are kept beside a run. */
export const mostWays = 5

const whatIf = z.object({
  id,
  name: z.string(),
  changes: changesShape,
  by: z.string(),
  at: z.number(),
})
export type WhatIf = z.infer<typeof whatIf>

export const listWhatIfs = contract({
  name: 'listWhatIfs',
  method: 'GET',
  path: `${runs}/:ref/what-ifs`,
  permission: 'read',
  summary: 'Other ways a run could go, kept by name; at most five, the oldest first',
  params: refParams('run'),
  query: none,
  body: none,
  output: z.object({
    run: z.object({
      key: z.string(),
      title: z.string(),
      state: z.enum(runStates),
      startOn: plainDate,
      endOn: plainDate,
      reserve: z.number(),
      team: z.array(z.string()),
      version: z.number(),
      /** Where something is left to do. */
      environments: z.array(z.object({ id, name: z.string(), items: z.number(), minutes: z.number() })),
    }),
    rows: z.array(whatIf),
  }),
})
export type WhatIfList = z.infer<typeof listWhatIfs.output>

const figures = z.object({
  /** Minutes of the team, its days and heads. */
  minutes: z.number(),
  days: z.number(),
  people: z.number(),
  items: z.number(),
  work: z.number(),
  /** What stands above the line. */
  above: z.number(),
  aboveMinutes: z.number(),
  /** The share of the risk, 0…1, that stays below the line. */
  riskLeft: z.number(),
  worth: z.number(),
  whole: z.number(),
  /** Touched above the line, and those that only what is below it would touch. */
  requirements: z.object({ above: z.number(), below: z.number() }),
  criteria: z.object({ met: z.number(), of: z.number(), stake: z.array(z.string()) }),
  /** When what is above the line is done. */
  ends: z.object({ half: z.string().nullable(), sure: z.string().nullable(), chance: z.number().nullable() }),
  /** How much of it finds a place when it is levelled, by skills, seats, order and due days. */
  placed: z.object({ items: z.number(), worth: z.number(), bound: z.number() }),
  /** What of it cannot be: why, in sentences. */
  problems: z.array(z.string()),
})
export type WayFigures = z.infer<typeof figures>

export const weighWhatIf = contract({
  name: 'weighWhatIf',
  method: 'GET',
  path: `${runs}/:ref/what-ifs/figures`,
  permission: 'read',
  summary: 'What a run comes to if it goes another way; without an id: as it goes now',
  params: refParams('run'),
  query: z.object({ id: z.coerce.number().int().positive().optional() }),
  body: none,
  output: figures,
})
const name = line(80)
export const createWhatIf = contract({
  name: 'createWhatIf',
  method: 'POST',
  path: `${runs}/:ref/what-ifs`,
  permission: 'leadRuns',
  summary: 'Keep another way a run could go; the run is not touched',
  params: refParams('run'),
  query: none,
  body: z.object({ name, changes: changesShape }),
  output: z.object({ id }),
})
export const updateWhatIf = contract({
  name: 'updateWhatIf',
  method: 'PATCH',
  path: '/projects/:key/what-ifs/:id',
  permission: 'leadRuns',
  summary: 'Change another way a run could go; what is not named stays as it is',
  params: idParams('what_if'),
  query: none,
  body: z.object({ name, changes: changesShape.partial() }).partial(),
  output: done,
})
export const dropWhatIf = contract({
  name: 'dropWhatIf',
  method: 'DELETE',
  path: '/projects/:key/what-ifs/:id',
  permission: 'leadRuns',
  summary: 'Drop another way a run could go',
  params: idParams('what_if'),
  query: orUndo,
  body: none,
  output: done,
})

/** What of a run is put as it says; what is left out stays. */
const way = z.object({
  people: z.array(memberId).max(100).optional(),
  endOn: plainDate.optional(),
  /** Its own; `null`: that of its project. */
  reservePercent: reserve.nullable().optional(),
  sides: z.array(z.object({ ids: idsOf('item', 20_000), side: z.enum(heldSides).nullable() })).max(3),
})
export type Way = z.infer<typeof way>
export const applyWhatIf = contract({
  name: 'applyWhatIf',
  method: 'POST',
  path: '/projects/:key/what-ifs/:id/apply',
  permission: 'leadRuns',
  summary:
    'Put another way in force as a whole: team, last day, reserve, and items of environments left out; it is not kept any more then. Answers what was before',
  params: idParams('what_if'),
  query: none,
  /** Of the run, as it was looked at. */
  body: z.object({ version: z.number().int() }),
  output: z.object({ before: way }),
})
export const putRunWay = contract({
  name: 'putRunWay',
  method: 'PUT',
  path: `${runs}/:ref/way`,
  permission: 'leadRuns',
  summary: 'Put team, last day, reserve and hand-made sides of a run at once; answers what was before, to be put back',
  params: refParams('run'),
  query: none,
  body: way,
  output: z.object({ before: way }),
})
