import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { filterShape } from '#core/lib/filter.ts'
import { deletedAnswer, manyAnswer, manyBody } from '#core/lib/many.ts'
import { idInPath, idOf, idsOf } from '#core/lib/owned.ts'
import { richText } from '#core/lib/rich-text.ts'
import {
  done,
  id,
  line,
  listQuery,
  none,
  orderAnswer,
  orUndo,
  pageOf,
  projectParams,
  refParams,
  text,
  scopeQuery,
} from '#core/lib/shapes.ts'
import { sourceKinds, sourceSaid, suiteOrders } from './source.ts'
import { suiteStates } from './state.ts'

const named = z.object({ key: z.string(), title: z.string() })
const suiteRow = z.object({
  id,
  key: z.string(),
  number: z.number(),
  title: z.string(),
  objective: z.string(),
  state: z.enum(suiteStates),
  cases: z.number(),
  minutes: z.number(),
  /** What it is made of, in few words: `12 pinned, 2 rules`. */
  made: z.string(),
  /** Sources that cannot be followed. */
  broken: z.number(),
  /** Cases that came in within the last seven days. */
  news: z.number(),
  /** How many plans ask for it. */
  inPlans: z.number(),
  version: z.number(),
})
export type SuiteRow = z.infer<typeof suiteRow>

const source = z.object({
  id,
  kind: z.enum(sourceKinds),
  /** Cases it brings by itself. */
  cases: z.number(),
  requirement: named.extend({ id }).nullable(),
  suite: named.extend({ id }).nullable(),
  words: z.string(),
  filter: filterShape.nullable(),
  minutes: z.number().nullable(),
  frozen: z.boolean(),
  /** Why it cannot be followed; what it held last is then `last`, and counts no more. */
  problem: z.string().nullable(),
  last: z.array(named.extend({ id })),
})
export type SourceShown = z.infer<typeof source>

const member = named.extend({
  id,
  importance: z.string(),
  minutes: z.number(),
  /** Ids of the sources it is in by, 0 for its pin. */
  by: z.array(z.number()),
  /** Why it is among the best in some minutes. */
  why: z.string().nullable(),
})
export type SuiteMember = z.infer<typeof member>

const exclusion = named.extend({ id, reason: z.string(), by: z.string().nullable(), at: z.number() })
const suiteSheet = suiteRow.extend({
  closedReason: z.string(),
  orderedBy: z.enum(suiteOrders),
  pins: z.number(),
  /** Pinned cases that are retired or deleted, and count no more. */
  idle: z.number(),
  sources: z.array(source),
  exclusions: z.array(exclusion),
  /** The first of them, in the suite's order. */
  members: z.array(member),
  plans: z.array(named),
  runs: z.array(named.extend({ state: z.string(), at: z.number() })),
  /** Suites it is part of. */
  within: z.array(named),
  /** Versions of the plans that hold it, the newest first. */
  versions: z.array(z.object({ key: z.string(), version: z.number(), at: z.number() })),
})
export type SuiteSheet = z.infer<typeof suiteSheet>

const suites = '/projects/:key/suites'
const own = `${suites}/:ref`
const params = refParams('suite')
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
  summary: 'Start a suite, with cases pinned to it and sources that bring cases',
  params: projectParams,
  query: none,
  body: z.object({
    title: line(200),
    cases: z.array(idOf('test_case')).max(20_000).default([]),
    sources: z.array(sourceSaid).max(50).default([]),
  }),
  output: z.object({ id, key: z.string() }),
})
export const readSuite = contract({
  name: 'readSuite',
  method: 'GET',
  path: own,
  permission: 'read',
  summary: 'A suite: what it is made of, and the first of its cases in order',
  params,
  query: none,
  body: none,
  output: suiteSheet,
})
export const listMembers = contract({
  name: 'listMembers',
  method: 'GET',
  path: `${own}/members`,
  permission: 'read',
  summary: 'Cases of a suite now, in its order, each with the sources it is in by',
  params,
  query: z.object({
    cursor: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(500).default(100),
  }),
  body: none,
  output: pageOf(member),
})
export const readSuiteNotYet = contract({
  name: 'readSuiteNotYet',
  method: 'GET',
  path: `${own}/not-yet`,
  permission: 'read',
  summary: 'Cases of a suite that cannot be tested yet in a release or iteration, each with from when they can',
  params,
  query: scopeQuery,
  body: none,
  output: z.object({ rows: z.array(named.extend({ id, from: z.string() })), total: z.number() }),
})
const coming = named.extend({
  id,
  at: z.number(),
  by: z.string().nullable(),
  /** What it is, or was, in by: sources, 0 for its pin. */
  sources: z.array(z.number()),
})
export const readSuiteChanges = contract({
  name: 'readSuiteChanges',
  method: 'GET',
  path: `${own}/changes`,
  permission: 'read',
  summary: 'What came into a suite, went out of it and was rewritten since an instant, or since its last run began',
  params,
  query: z.object({ since: z.coerce.number().int().min(0).optional() }),
  body: none,
  output: z.object({
    since: z.number(),
    /** The run it is told since, where no instant was asked for. */
    run: named.nullable(),
    came: z.array(coming),
    went: z.array(coming),
    rewritten: z.array(coming),
  }),
})
export type SuiteChangesTold = z.infer<typeof readSuiteChanges.output>
export const readSuiteRequirements = contract({
  name: 'readSuiteRequirements',
  method: 'GET',
  path: `${own}/requirements`,
  permission: 'read',
  summary: 'Requirements a suite’s cases prove, and those of its plans’ releases that no suite of these plans does',
  params,
  query: none,
  body: none,
  output: z.object({
    proved: z.array(named.extend({ id, cases: z.number() })),
    missing: z.array(named.extend({ id, risk: z.number().nullable() })),
  }),
})
const suiteFields = z.object({
  title: line(200),
  objective: richText(20_000),
  state: z.enum(suiteStates),
  closedReason: text(500),
  orderedBy: z.enum(suiteOrders),
})
export const updateSuite = contract({
  name: 'updateSuite',
  method: 'PATCH',
  path: own,
  permission: 'composeSuites',
  summary: 'Change a suite’s fields; a closed one can only be opened again',
  params,
  query: none,
  body: suiteFields.partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
/** What may be set on many suites at once. */
const suiteSet = suiteFields.pick({ state: true, closedReason: true }).partial()
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
  path: `${own}/pins`,
  permission: 'composeSuites',
  summary: 'Pin cases to a suite, or take pins out',
  params,
  query: none,
  body: z.object({
    add: z.array(z.string()).max(20_000).default([]),
    addIds: z.array(idOf('test_case')).max(50_000).default([]),
    remove: z.array(idOf('test_case')).max(20_000).default([]),
  }),
  output: z.object({
    pins: z.number(),
    /** Those that were not pinned before. */
    added: z.array(id),
  }),
})
export const placeMembers = contract({
  name: 'placeMembers',
  method: 'PUT',
  path: `${own}/order`,
  permission: 'composeSuites',
  summary: 'Put cases of a suite in an order by hand; those not named come after them as they stood',
  params,
  query: none,
  body: z.object({ order: z.array(idOf('test_case')).max(20_000) }),
  output: z.object({ version: z.number() }),
})
export const excludeCases = contract({
  name: 'excludeCases',
  method: 'POST',
  path: `${own}/exclusions`,
  permission: 'composeSuites',
  summary: 'Leave cases out whatever the sources say, with a reason; or let them in again',
  params,
  query: none,
  body: z.object({
    add: z.array(idOf('test_case')).max(20_000).default([]),
    reason: z.string().trim().max(300).default(''),
    remove: z.array(idOf('test_case')).max(20_000).default([]),
  }),
  output: done,
})
export const addSource = contract({
  name: 'addSource',
  method: 'POST',
  path: `${own}/sources`,
  permission: 'composeSuites',
  summary: 'Let a branch, a rule, another suite or the best in some minutes bring cases into a suite',
  params,
  query: none,
  body: sourceSaid,
  output: z.object({ id }),
})
const sourceParams = params.extend({ source: idInPath('suite_source') })
export const changeSource = contract({
  name: 'changeSource',
  method: 'PUT',
  path: `${own}/sources/:source`,
  permission: 'composeSuites',
  summary: 'Say a source anew',
  params: sourceParams,
  query: none,
  body: sourceSaid,
  output: done,
  versioned: true,
})
export const removeSource = contract({
  name: 'removeSource',
  method: 'DELETE',
  path: `${own}/sources/:source`,
  permission: 'composeSuites',
  summary: 'Take a source away; asked again with undo=yes it is there again',
  params: sourceParams,
  query: orUndo,
  body: none,
  output: done,
})
export const tryRule = contract({
  name: 'tryRule',
  method: 'GET',
  path: '/projects/:key/rule',
  permission: 'read',
  summary: 'What a rule would bring into a suite: how many, and the first',
  params: projectParams,
  query: z.object({ words: z.string().max(200).optional(), filter: z.string().max(8000).optional() }),
  body: none,
  output: z.object({
    total: z.number(),
    first: z.array(named.extend({ id, importance: z.string() })),
    minutes: z.number(),
    problem: z.string().nullable(),
  }),
})
export const tryBest = contract({
  name: 'tryBest',
  method: 'GET',
  path: '/projects/:key/best',
  permission: 'read',
  summary: 'What the best within some minutes would be now',
  params: projectParams,
  query: z.object({
    minutes: z.coerce.number().int().min(1).max(1_000_000),
    requirement: idInPath('requirement').optional(),
  }),
  body: none,
  output: z.object({
    total: z.number(),
    minutes: z.number(),
    first: z.array(named.extend({ id, why: z.string() })),
  }),
})
