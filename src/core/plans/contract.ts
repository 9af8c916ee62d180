import { askSaid, askShown } from './asks-contract.ts'
import { planAsked, planSigned } from './versions-contract.ts'
import { planParts, planStates } from './state.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf, memberId } from '#core/lib/owned.ts'
import { richText } from '#core/lib/rich-text.ts'
import {
  id,
  line,
  listQuery,
  none,
  orderAnswer,
  pageOf,
  plainDate,
  projectParams,
  refParams,
} from '#core/lib/shapes.ts'

const planRow = z.object({
  id,
  key: z.string(),
  number: z.number(),
  title: z.string(),
  objective: z.string(),
  state: z.enum(planStates),
  release: z.string(),
  iteration: z.string().nullable(),
  suites: z.number(),
  cases: z.number(),
  environments: z.number(),
  runs: z.number(),
  version: z.number(),
})
export type PlanRow = z.infer<typeof planRow>
const planSheet = planRow.extend({
  releaseId: id,
  iterationId: id.nullable(),
  suiteList: z.array(z.object({ id, key: z.string(), title: z.string(), cases: z.number() })),
  environmentList: z.array(z.object({ id, name: z.string() })),
  runList: z.array(
    z.object({ key: z.string(), title: z.string(), state: z.string(), items: z.number(), done: z.number() }),
  ),
  minutes: z.number(),
  /** Free words in each part. */
  parts: z.record(z.enum(planParts), z.string()),
  risks: z.array(
    z.object({
      id,
      title: z.string(),
      likelihood: z.number(),
      impact: z.number(),
      answers: z.array(z.object({ kind: z.enum(['requirement', 'case']), id, key: z.string(), title: z.string() })),
    }),
  ),
  branches: z.array(z.object({ id, key: z.string(), title: z.string(), inside: z.boolean(), reason: z.string() })),
  people: z.array(z.object({ id: z.string(), name: z.string(), part: z.string(), minutes: z.number().nullable() })),
  milestones: z.array(z.object({ title: z.string(), on: z.string() })),
  dueOn: z.string().nullable(),
  /** Which environments are asked for, where it is not every one of the plan. */
  asks: z.array(askShown),
  /** Requirements at the ends of the outline in the plan's scope that no suite of it proves. */
  unproved: z.array(z.object({ id, key: z.string(), title: z.string(), risk: z.number().nullable() })),
  /** The version last signed by all who were asked, and the one that waits for answers. */
  signed: planSigned.nullable(),
  asked: planAsked.nullable(),
  /** The version that answers for it while it is closed, or its release shipped. */
  frozen: z.number().nullable(),
})
export type PlanSheet = z.infer<typeof planSheet>

const plans = '/projects/:key/plans'
const list = { params: projectParams, query: listQuery, body: none }
export const listPlans = contract({
  name: 'listPlans',
  method: 'GET',
  path: plans,
  permission: 'read',
  summary: 'Plans',
  ...list,
  output: pageOf(planRow),
})
export const orderPlans = contract({
  name: 'orderPlans',
  method: 'GET',
  path: `${plans}/order`,
  permission: 'read',
  summary: 'Ids of the list in their order',
  ...list,
  output: orderAnswer,
})
export const createPlan = contract({
  name: 'createPlan',
  method: 'POST',
  path: plans,
  permission: 'plan',
  summary: 'Start a plan for a release',
  params: projectParams,
  query: none,
  body: z.object({
    title: line(200),
    release: idOf('release'),
    iteration: idOf('iteration').nullable().default(null),
    suites: z.array(idOf('suite')).max(200).default([]),
    environments: z.array(idOf('environment')).max(100).default([]),
  }),
  output: z.object({ id, key: z.string() }),
})
export const readPlan = contract({
  name: 'readPlan',
  method: 'GET',
  path: `${plans}/:ref`,
  permission: 'read',
  summary: 'A plan with its suites, environments and runs',
  params: refParams('plan'),
  query: none,
  body: none,
  output: planSheet,
})
export const updatePlan = contract({
  name: 'updatePlan',
  method: 'PATCH',
  path: `${plans}/:ref`,
  permission: 'plan',
  summary: 'Change a plan: fields, suites, environments',
  params: refParams('plan'),
  query: none,
  body: z
    .object({
      title: line(200),
      objective: richText(20_000),
      state: z.enum(planStates),
      suites: z.array(idOf('suite')).max(200),
      environments: z.array(idOf('environment')).max(100),
      parts: z.partialRecord(z.enum(planParts), richText(20_000)),
      risks: z
        .array(
          z.object({
            title: line(200),
            likelihood: z.number().int().min(1).max(5),
            impact: z.number().int().min(1).max(5),
            requirements: z.array(idOf('requirement')).max(100).default([]),
            cases: z.array(idOf('test_case')).max(100).default([]),
          }),
        )
        .max(100),
      branches: z
        .array(
          z.object({ id: idOf('requirement'), inside: z.boolean(), reason: z.string().trim().max(300).default('') }),
        )
        .max(500),
      people: z.array(z.object({ id: memberId, part: z.string().trim().max(200).default('') })).max(200),
      milestones: z.array(z.object({ title: line(200), on: plainDate })).max(100),
      asks: z.array(askSaid).max(1000, 'are more than 1,000; say it of a branch or a suite'),
    })
    .partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
const told = z.object({ key: z.string(), title: z.string() })
export const readPlanSince = contract({
  name: 'readPlanSince',
  method: 'GET',
  path: `${plans}/:ref/since`,
  permission: 'read',
  summary:
    'What changed about a plan since an instant: its scope, what it rests on, builds, people, and what others did to it',
  params: refParams('plan'),
  query: z.object({ since: z.coerce.number().int().min(0) }),
  body: none,
  output: z.object({
    came: z.array(told),
    went: z.array(told),
    reworded: z.array(told.extend({ suspect: z.number() })),
    builds: z.array(z.object({ name: z.string(), state: z.string(), at: z.number() })),
    away: z.array(z.object({ id: z.string(), name: z.string(), startOn: z.string(), endOn: z.string() })),
    acts: z.array(z.object({ action: z.string(), person: z.string().nullable(), at: z.number() })),
  }),
})
export type PlanSince = z.infer<typeof readPlanSince.output>
