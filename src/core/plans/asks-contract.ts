import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { id, none, refParams, scopeQuery } from '#core/lib/shapes.ts'
import { verdict } from '#core/lib/verdict.ts'
import { askAbouts, askWays } from './asks.ts'

/** What is asked for a target, as it is sent. */
export const askSaid = z
  .discriminatedUnion('about', [
    z.object({ about: z.literal('plan'), id: z.literal(0) }),
    z.object({ about: z.literal('suite'), id: idOf('suite') }),
    z.object({ about: z.literal('requirement'), id: idOf('requirement') }),
    z.object({ about: z.literal('case'), id: idOf('test_case') }),
  ])
  .and(
    z.object({
      way: z.enum(askWays),
      environments: z.array(idOf('environment')).min(1, 'names no environment').max(100).nullable().default(null),
    }),
  )
export const askShown = z.object({
  about: z.enum(askAbouts),
  id: z.number(),
  way: z.enum(askWays),
  environments: z.array(id).nullable(),
  /** Of the suite, requirement or case; empty for the plan. */
  key: z.string(),
  title: z.string(),
})
export type AskShown = z.infer<typeof askShown>

const plan = '/projects/:key/plans/:ref'
export const readPrice = contract({
  name: 'readPrice',
  method: 'GET',
  path: `${plan}/price`,
  permission: 'read',
  summary: 'What each way of asking for environments would cost a plan: slots and minutes, before one is chosen',
  params: refParams('plan'),
  query: z.object({
    about: z.enum(askAbouts).default('plan'),
    id: z.coerce.number().int().min(0).default(0),
  }),
  body: none,
  output: z.object({
    now: z.object({ slots: z.number(), minutes: z.number() }),
    ways: z.array(z.object({ way: z.enum(askWays), slots: z.number(), minutes: z.number() })),
    /** Pairs of factor values no environment of the plan has, and the rule by which they may not. */
    pairs: z.array(z.object({ pair: z.tuple([z.string(), z.string()]), rule: z.string().nullable() })),
    /** Environments it names that are not allowed, each with the rule. */
    notAllowed: z.array(z.object({ id, name: z.string(), rule: z.string() })),
    /** Requirements in scope, each with the environments of the plan in which nothing of it is asked. */
    lacking: z.array(z.object({ id, key: z.string(), title: z.string(), environments: z.array(z.string()) })),
    lackingTotal: z.number(),
    /** Cases of the plan that cannot be tested yet in its release and iteration, with from when they can. */
    notYet: z.array(z.object({ id, key: z.string(), title: z.string(), from: z.string() })),
    notYetTotal: z.number(),
    /** What would be passing of the plan's slots if all that is asked passed, and what is passing now. */
    covered: z.object({ now: z.number().nullable(), then: z.number().nullable() }),
  }),
})
export type PlanPrice = z.infer<typeof readPrice.output>

const matrixQuery = scopeQuery.extend({ by: z.enum(['requirements', 'cases']).default('requirements') })
const cell = z
  .object({
    /** One of those of which any would do. */
    any: z.boolean(),
    verdict,
    stale: z.boolean(),
    attempt: id.nullable(),
    /** The item that attempt was made for, where it can be read. */
    item: id.nullable(),
  })
  .nullable()
export type MatrixCell = NonNullable<z.infer<typeof cell>>
const matrixRow = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('requirement'),
    id: z.number(),
    key: z.string(),
    title: z.string(),
    /** Of the slots asked in each environment, so many have passed. */
    cells: z.array(z.object({ passed: z.number(), of: z.number() })),
  }),
  z.object({
    kind: z.literal('case'),
    id,
    key: z.string(),
    title: z.string(),
    ways: z.array(z.enum(askWays)),
    cells: z.array(cell),
  }),
])
export type MatrixRow = z.infer<typeof matrixRow>
export const readMatrix = contract({
  name: 'readMatrix',
  method: 'GET',
  path: `${plan}/matrix`,
  permission: 'read',
  summary: 'What a plan asks for, case by environment, with the results that stand there',
  params: refParams('plan'),
  query: matrixQuery.extend({
    cursor: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(200).default(100),
  }),
  body: none,
  output: z.object({
    columns: z.array(
      z.object({
        id,
        name: z.string(),
        values: z.record(z.string(), z.string()),
        outage: z.string().nullable(),
      }),
    ),
    figures: z.object({
      slots: z.number(),
      empty: z.number(),
      stale: z.number(),
      failing: z.number(),
      minutes: z.number(),
    }),
    rows: z.array(matrixRow),
    total: z.number(),
    next: z.number().nullable(),
  }),
})
export type Matrix = z.infer<typeof readMatrix.output>
export const matrixFinds = ['empty', 'stale', 'failing'] as const
export const readMatrixSlots = contract({
  name: 'readMatrixSlots',
  method: 'GET',
  path: `${plan}/matrix/slots`,
  permission: 'read',
  summary: 'Slots of a plan that have no result, a stale one, or a failing one, to make a run of',
  params: refParams('plan'),
  query: scopeQuery.extend({ find: z.enum(matrixFinds) }),
  body: none,
  output: z.object({ slots: z.array(z.object({ case: id, environment: id })), total: z.number() }),
})
const deal = z.object({ case: id, environment: id })
export const dealPlan = contract({
  name: 'dealPlan',
  method: 'POST',
  path: `${plan}/deals`,
  permission: 'plan',
  summary:
    'Deal the spread cases of a plan again; only told, it says which would move and which results would be unseated. With `deals` they are dealt as said, which takes a dealing back',
  params: refParams('plan'),
  query: none,
  body: z.object({
    only: z.enum(['told']).optional(),
    deals: z
      .array(z.object({ case: idOf('test_case'), environment: idOf('environment') }))
      .max(20_000)
      .optional(),
  }),
  output: z.object({
    moved: z.number(),
    unseated: z.array(
      z.object({ key: z.string(), title: z.string(), from: z.string(), to: z.string(), verdict: z.string() }),
    ),
    unseatedTotal: z.number(),
    /** As they were dealt before. */
    before: z.array(deal),
  }),
})
