import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { stopped } from '#core/lib/many.ts'
import { idInPath, idOf } from '#core/lib/owned.ts'
import { id, instant, keyShape, none, projectParams, refParams } from '#core/lib/shapes.ts'
import { verdict } from '#core/lib/verdict.ts'
import { runReasons } from './compose.ts'

const runReason = z.enum(runReasons)
/** A case in an environment, as it is sent, with why it is executed. */
export const slotSaid = z.object({
  case: idOf('test_case'),
  environment: idOf('environment'),
  reasons: z.array(runReason).max(runReasons.length).optional(),
})

/** Several in an address, with commas. */
const listed = <T extends z.ZodType<unknown, string>>(each: T) =>
  z
    .string()
    .max(2000)
    .transform((text) => text.split(',').filter((part) => part !== ''))
    .pipe(z.array(each).max(50, 'names at most 50'))

/** Out of what: earlier runs, a plan, both together, or the whole scope of the build where neither is named. */
const question = {
  runs: listed(keyShape('run')).optional(),
  plan: keyShape('plan').optional(),
  /** The build of the run that is made: what is known is judged on it. */
  build: idInPath('build'),
  /** They add up. */
  reasons: listed(runReason).optional(),
  words: z.string().max(200).optional(),
  /** A filter of cases as JSON. */
  filter: z.string().max(8000).optional(),
}

const composedRow = z.object({
  case: id,
  key: z.string(),
  title: z.string(),
  environment: id,
  environmentName: z.string(),
  verdict,
  stale: z.boolean(),
  reasons: z.array(runReason),
  /** The reasons in words. */
  why: z.string(),
  minutes: z.number(),
  attempt: id.nullable(),
  at: instant.nullable(),
})
export type ComposedRow = z.infer<typeof composedRow>

const compose = '/projects/:key/compose'
export const composeRun = contract({
  name: 'composeRun',
  method: 'GET',
  path: compose,
  permission: 'read',
  summary: 'What is to be executed again, by its reasons: counted by each, the first of them in order',
  params: projectParams,
  query: z.object({
    ...question,
    cursor: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(200).default(100),
  }),
  body: none,
  output: z.object({
    /** Of what there is to choose from, after the filter. */
    looked: z.number(),
    counts: z.record(runReason, z.number()),
    /** Chosen for one reason, and for several. */
    one: z.number(),
    several: z.number(),
    total: z.number(),
    minutes: z.number(),
    /** Says what is chosen: as long as it is the same, so are the items. */
    mark: z.string(),
    rows: z.array(composedRow),
    next: z.number().nullable(),
  }),
})
export type ComposedAnswer = z.infer<typeof composeRun.output>

export const composeItems = contract({
  name: 'composeItems',
  method: 'GET',
  path: `${compose}/items`,
  permission: 'read',
  summary: 'All that is chosen, each with its reasons, as a run is made of them; at most 20,000',
  params: projectParams,
  query: z.object(question),
  body: none,
  output: z.object({
    mark: z.string(),
    total: z.number(),
    items: z.array(z.object({ case: id, environment: id, reasons: z.array(runReason) })),
  }),
})

/** Why a run was made, as it is kept with it; the filter as in an address. */
export const composedShown = z.object({
  runs: z.array(keyShape('run')).max(50),
  plan: keyShape('plan').nullable(),
  reasons: z.array(runReason).max(runReasons.length),
  words: z.string().max(200),
  filter: z.string().max(8000),
})
export const composedSaid = composedShown.partial().required({ reasons: true })

const items = '/projects/:key/runs/:ref/items'
export const addItems = contract({
  name: 'addItems',
  method: 'POST',
  path: items,
  permission: 'leadRuns',
  summary: 'Put cases into a run that is not closed; what is there already stays as it is',
  params: refParams('run'),
  query: none,
  body: z.object({ items: z.array(slotSaid).min(1, 'names no case').max(20_000) }),
  /** `there`: were in the run before; `undo`: what came in. */
  output: z.object({ added: z.number(), there: z.number(), undo: z.array(id) }),
})
export const dropItems = contract({
  name: 'dropItems',
  method: 'POST',
  path: `${items}/drop`,
  permission: 'leadRuns',
  summary: 'Take items out of a run; attempts at them stay in history. With `undo` they are back',
  params: refParams('run'),
  query: none,
  body: z.object({
    ids: z.array(idOf('item')).min(1, 'names no item').max(20_000),
    reason: z.string().trim().max(500).default(''),
    undo: z.boolean().default(false),
  }),
  /** `begun`: how many of them had attempts. */
  output: z.object({ changed: z.number(), begun: z.number(), stopped }),
})
