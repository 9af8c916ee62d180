import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { memberId } from '#core/lib/owned.ts'
import { instant, none, refParams } from '#core/lib/shapes.ts'
import { definitionChange, saying } from './definition.ts'
import { signAnswers, versionStates } from './state.ts'

const told = z.object({ key: z.string(), title: z.string() })
const signature = z.object({
  id: z.string(),
  name: z.string(),
  answer: z.enum(signAnswers).nullable(),
  words: z.string(),
  at: instant.nullable(),
})
const versionRow = z.object({
  version: z.number(),
  state: z.enum(versionStates),
  note: z.string(),
  by: z.string().nullable(),
  at: instant,
  endedAt: instant.nullable(),
  cases: z.number(),
  signatures: z.array(signature),
})
export type PlanVersionRow = z.infer<typeof versionRow>

/** What became different between two versions, or a version and the plan as it stands. */
const comparison = z.object({
  /** The version it is compared with; `null`: the plan as it stands. */
  with: z.number().nullable(),
  changes: z.array(definitionChange),
  /** Cases that are in now and were not, and the other way round; the first of `cameTotal` and `wentTotal`. */
  came: z.array(told),
  cameTotal: z.number(),
  went: z.array(told),
  wentTotal: z.number(),
})
export type PlanComparison = z.infer<typeof comparison>

/** How the plan stands to the last version that was signed, shown with the plan. */
export const planSigned = z.object({
  version: z.number(),
  at: instant,
  by: z.array(z.string()),
  /** What of the definition changed since, in few words; empty: it holds. */
  stale: z.string(),
  changes: z.number(),
  came: z.number(),
  went: z.number(),
})
/** The version people are asked about now. */
export const planAsked = z.object({
  version: z.number(),
  at: instant,
  by: z.string().nullable(),
  signatures: z.array(signature),
  stale: z.string(),
  changes: z.number(),
})

const own = '/projects/:key/plans/:ref/versions'
const params = refParams('plan')
const one = { path: `${own}/:version`, params: params.extend({ version: z.coerce.number().int().positive() }) }
export const listPlanVersions = contract({
  name: 'listPlanVersions',
  method: 'GET',
  path: own,
  permission: 'read',
  summary: 'Versions of a plan that people were asked to sign, or that it was closed with, the newest first',
  params,
  query: z.object({
    before: z.coerce.number().int().optional(),
    limit: z.coerce.number().int().min(1).max(100).default(50),
  }),
  body: none,
  output: z.object({ rows: z.array(versionRow), next: z.number().nullable() }),
})
export const readPlanVersion = contract({
  ...one,
  name: 'readPlanVersion',
  method: 'GET',
  permission: 'read',
  summary: 'A version of a plan, compared with the plan as it stands, or with an earlier version',
  query: z.object({ with: z.coerce.number().int().positive().optional() }),
  body: none,
  output: versionRow.extend({
    definition: z.array(saying),
    /** The last version signed before it. */
    signedBefore: z.number().nullable(),
    comparison,
    /** May whoever asks answer it, and has not yet? */
    mine: z.enum(['asked', 'answered', 'no']),
  }),
})
export type PlanVersion = z.infer<typeof readPlanVersion.output>
export const askPlanReview = contract({
  name: 'askPlanReview',
  method: 'POST',
  path: own,
  permission: 'plan',
  summary: 'Put a plan up for review: freezes a version of it and asks people to sign it or send it back',
  params,
  query: none,
  body: z.object({
    people: z.array(memberId).min(1, 'nobody is asked').max(30),
    note: z.string().trim().max(1000).default(''),
  }),
  output: z.object({ version: z.number() }),
})
export const answerPlanReview = contract({
  ...one,
  name: 'answerPlanReview',
  method: 'POST',
  permission: 'review',
  summary: 'Sign a version of a plan, or send it back; only whoever was asked may',
  query: none,
  body: z.object({ answer: z.enum(signAnswers), words: z.string().trim().max(2000).default('') }),
  output: z.object({ state: z.enum(versionStates) }),
})
export const printPlan = contract({
  name: 'printPlan',
  method: 'GET',
  path: '/projects/:key/plans/:ref/paper',
  permission: 'read',
  summary: 'A plan with its tables, criteria and signatures as PDF or Markdown; or a version of it, as it was put up',
  params,
  query: z.object({ as: z.enum(['pdf', 'markdown']), version: z.coerce.number().int().positive().optional() }),
  body: none,
  output: z.any(),
  raw: true,
})
