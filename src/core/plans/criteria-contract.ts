import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idInPath, idOf } from '#core/lib/owned.ts'
import { done, id, none, orUndo, plainDate, projectParams, refParams, scopeQuery } from '#core/lib/shapes.ts'
import { criterionRule, criterionSides, outcomes } from './criteria.ts'

const missing = z.object({
  of: z.enum(['requirements', 'cases', 'defects', 'runs', 'slots']),
  total: z.number(),
  /** Ids of the first 500 objects; of slots, of their cases. */
  ids: z.array(z.number()),
  /** The first of them, to be read. */
  first: z.array(z.object({ key: z.string(), title: z.string(), detail: z.string() })),
})
const criterion = z.object({
  id,
  side: z.enum(criterionSides),
  rule: criterionRule,
  /** The criterion as a sentence. */
  words: z.string(),
  outcome: z.enum(outcomes),
  /** What it would be without a waiver. */
  plainly: z.enum(outcomes),
  figure: z.number().nullable(),
  figureText: z.string(),
  wanted: z.string(),
  missing,
  waiver: z
    .object({ by: z.string().nullable(), at: z.number(), reason: z.string(), until: z.string(), holds: z.boolean() })
    .nullable(),
})
export type CriterionShown = z.infer<typeof criterion>

/** How many are met of how many; waived ones are counted apart. */
const tally = z.object({ met: z.number(), of: z.number(), waived: z.number() })
export type CriteriaTally = z.infer<typeof tally>

/** How many are met, in words: `5 of 8 met, 1 waived`. */
export const tallyWords = ({ met, of, waived }: CriteriaTally): string =>
  `${met} of ${of} met${waived > 0 ? `, ${waived} waived` : ''}`

const planCriteria = z.object({
  plan: z.object({ id, key: z.string(), title: z.string(), state: z.string() }),
  scope: z.object({
    release: z.string(),
    iteration: z.string().nullable(),
    build: z.string().nullable(),
    environment: z.string().nullable(),
    asOf: z.number(),
  }),
  entry: tally,
  exit: tally,
  criteria: z.array(criterion),
})
export type PlanCriteria = z.infer<typeof planCriteria>

const own = '/projects/:key/plans/:ref'
const params = refParams('plan')
export const readCriteria = contract({
  name: 'readCriteria',
  method: 'GET',
  path: `${own}/criteria`,
  permission: 'read',
  summary: 'The entry and exit criteria of a plan, each evaluated now or as of an instant',
  params,
  query: scopeQuery,
  body: none,
  output: planCriteria,
})
export const readReadiness = contract({
  name: 'readReadiness',
  method: 'GET',
  path: '/projects/:key/reports/readiness',
  permission: 'read',
  summary: 'The criteria of an iteration’s plans, or else of the release’s, evaluated in the scope',
  params: projectParams,
  query: scopeQuery,
  body: none,
  output: z.object({ exit: tally, entry: tally, plans: z.array(planCriteria) }),
})
export type Readiness = z.infer<typeof readReadiness.output>
export const addCriterion = contract({
  name: 'addCriterion',
  method: 'POST',
  path: `${own}/criteria`,
  permission: 'plan',
  summary: 'Add an entry or exit criterion to a plan',
  params,
  query: none,
  body: z.object({ side: z.enum(criterionSides).default('exit'), rule: criterionRule }),
  output: z.object({ id }),
})
const criterionParams = params.extend({ criterion: idInPath('plan_criterion') })
export const changeCriterion = contract({
  name: 'changeCriterion',
  method: 'PATCH',
  path: `${own}/criteria/:criterion`,
  permission: 'plan',
  summary: 'Say a criterion anew, or put it on the other side or in another place',
  params: criterionParams,
  query: none,
  body: z
    .object({ side: z.enum(criterionSides), rule: criterionRule, before: idOf('plan_criterion').nullable() })
    .partial(),
  output: done,
})
export const removeCriterion = contract({
  name: 'removeCriterion',
  method: 'DELETE',
  path: `${own}/criteria/:criterion`,
  permission: 'plan',
  summary: 'Take a criterion away; asked again with undo=yes it is there again',
  params: criterionParams,
  query: orUndo,
  body: none,
  output: done,
})
export const waiveCriterion = contract({
  name: 'waiveCriterion',
  method: 'POST',
  path: `${own}/criteria/:criterion/waiver`,
  permission: 'plan',
  summary: 'Waive a criterion until a day, with a reason; `until` null ends the waiver',
  params: criterionParams,
  query: none,
  body: z.object({ reason: z.string().trim().max(500).default(''), until: plainDate.nullable() }),
  output: done,
})
export const readShortestWay = contract({
  name: 'readShortestWay',
  method: 'GET',
  path: `${own}/shortest-way`,
  permission: 'read',
  summary:
    'The cheapest items that, if they pass, meet every exit criterion that testing can still meet; and what it cannot mend',
  params,
  query: scopeQuery,
  body: none,
  output: z.object({
    minutes: z.number(),
    total: z.number(),
    /** No cheaper set does it; else none was found. */
    exact: z.boolean(),
    /** The first 200; all of them in `slots`. */
    items: z.array(
      z.object({
        case: id,
        key: z.string(),
        title: z.string(),
        environment: id,
        environmentName: z.string(),
        minutes: z.number(),
        verdict: z.string(),
        stale: z.boolean(),
        /** Why its result does not do: `Failed on rc1`, `older build`. */
        why: z.string(),
        /** Ids of the criteria it helps. */
        helps: z.array(id),
      }),
    ),
    slots: z.array(z.object({ case: id, environment: id })),
    meets: z.array(id),
    cannot: z.array(z.object({ id, words: z.string(), missing })),
  }),
})
export type ShortestWayShown = z.infer<typeof readShortestWay.output>
