import { deletedAnswer, manyAnswer, manyBody } from '#core/lib/many.ts'
import { planStates, suiteStates } from './state.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf, idsOf } from '#core/lib/owned.ts'
import { richText } from '#core/lib/rich-text.ts'
import { id, line, listQuery, none, orderAnswer, pageOf, projectParams, refParams } from '#core/lib/shapes.ts'

const suiteRow = z.object({
  id,
  key: z.string(),
  number: z.number(),
  title: z.string(),
  objective: z.string(),
  state: z.enum(suiteStates),
  cases: z.number(),
  minutes: z.number(),
  /** How many plans ask for it. */
  inPlans: z.number(),
  version: z.number(),
})
export type SuiteRow = z.infer<typeof suiteRow>
const suiteSheet = suiteRow.extend({
  pinned: z.array(z.object({ id, key: z.string(), title: z.string(), importance: z.string(), minutes: z.number() })),
  plans: z.array(z.object({ key: z.string(), title: z.string() })),
})
export type SuiteSheet = z.infer<typeof suiteSheet>
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
  /** Where only approved cases are executed: those of the plan that have no approved version. */
  unapproved: z.array(z.string()),
})
export type PlanSheet = z.infer<typeof planSheet>

const suites = '/projects/:key/suites'
const plans = '/projects/:key/plans'
const list = { params: projectParams, query: listQuery, body: none }
export const listSuites = contract({
  name: 'listSuites',
  method: 'GET',
  path: suites,
  permission: 'read',
  summary: 'Suites',
  ...list,
  output: pageOf(suiteRow),
})
export const orderSuites = contract({
  name: 'orderSuites',
  method: 'GET',
  path: `${suites}/order`,
  permission: 'read',
  summary: 'Ids of the list in their order',
  ...list,
  output: orderAnswer,
})
export const createSuite = contract({
  name: 'createSuite',
  method: 'POST',
  path: suites,
  permission: 'composeSuites',
  summary: 'Start a suite, with cases pinned to it',
  params: projectParams,
  query: none,
  body: z.object({ title: line(200), cases: z.array(idOf('test_case')).max(20_000).default([]) }),
  output: z.object({ id, key: z.string() }),
})
export const readSuite = contract({
  name: 'readSuite',
  method: 'GET',
  path: `${suites}/:ref`,
  permission: 'read',
  summary: 'A suite with its cases in order',
  params: refParams('suite'),
  query: none,
  body: none,
  output: suiteSheet,
})
export const updateSuite = contract({
  name: 'updateSuite',
  method: 'PATCH',
  path: `${suites}/:ref`,
  permission: 'composeSuites',
  summary: 'Change a suite’s fields',
  params: refParams('suite'),
  query: none,
  body: z.object({ title: line(200), objective: richText(20_000), state: z.enum(suiteStates) }).partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
/** What may be set on many suites at once. */
const suiteSet = z.object({ state: z.enum(suiteStates) }).partial()
export type SuiteSet = z.infer<typeof suiteSet>

export const changeSuites = contract({
  name: 'changeSuites',
  method: 'PATCH',
  path: suites,
  permission: 'composeSuites',
  summary: 'Change the same fields of many; undo with the values answered',
  params: projectParams,
  query: none,
  body: manyBody('suite', suiteSet),
  output: manyAnswer(suiteSet),
})
export const deleteSuites = contract({
  name: 'deleteSuites',
  method: 'POST',
  path: `${suites}/delete`,
  permission: 'delete',
  summary: 'Delete suites; the cases stay, and it can be undone',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('suite', 5000) }),
  output: deletedAnswer,
})
export const pinCases = contract({
  name: 'pinCases',
  method: 'POST',
  path: `${suites}/:ref/pins`,
  permission: 'composeSuites',
  summary: 'Pin cases to a suite, or take pins out; `order` puts all of them in that order',
  params: refParams('suite'),
  query: none,
  body: z.object({
    add: z.array(z.string()).max(20_000).default([]),
    addIds: z.array(idOf('test_case')).max(50_000).default([]),
    remove: z.array(idOf('test_case')).max(20_000).default([]),
    order: z.array(idOf('test_case')).max(20_000).optional(),
  }),
  output: z.object({
    cases: z.number(),
    /** Those that were not pinned before. */
    added: z.array(id),
  }),
})
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
    })
    .partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
