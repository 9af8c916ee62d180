import { z } from 'zod'
import { itemRow } from './item-row.ts'
import { composedSaid, composedShown, slotSaid } from './compose-contract.ts'
import { became, event } from './event-shape.ts'
import { askables, policy } from '#core/projects/policy.ts'
import { runStates } from './state.ts'
import { manyAnswer, manyBody } from '#core/lib/many.ts'
import { stepShape } from '#core/cases/contract.ts'
import { contract } from '#core/lib/contract.ts'
import { idInPath, idOf, memberId } from '#core/lib/owned.ts'
import {
  id,
  idParams,
  instant,
  line,
  listQuery,
  none,
  orderAnswer,
  pageOf,
  plainDate,
  projectParams,
  refParams,
} from '#core/lib/shapes.ts'
import { finalVerdict, said, verdict } from '#core/lib/verdict.ts'

const runRow = z.object({
  id,
  key: z.string(),
  number: z.number(),
  title: z.string(),
  state: z.enum(runStates),
  plan: z.string().nullable(),
  release: z.string(),
  build: z.string(),
  startOn: z.string(),
  endOn: z.string(),
  items: z.number(),
  /** With a result, spoiled ones aside. */
  done: z.number(),
  /** Results that count as still to be done, by the run's policy. */
  spoiled: z.number(),
  verdicts: z.record(z.string(), z.number()),
  minutes: z.number(),
  version: z.number(),
})
export type RunRow = z.infer<typeof runRow>
const runSheet = runRow.extend({
  planTitle: z.string().nullable(),
  releaseId: id,
  buildId: id,
  outcome: z.string().nullable(),
  team: z.array(
    z.object({ id: z.string(), name: z.string(), items: z.number(), minutes: z.number(), left: z.number() }),
  ),
  unassigned: z.number(),
  /** Cases that wait for approval, where only approved ones are executed. */
  unapproved: z.array(z.string()),
  closedAt: instant.nullable(),
  endedReason: z.string(),
  /** The rules it is executed under, and whether they are its own. */
  policy,
  ownPolicy: z.boolean(),
  /** What verdicts ask for and was not given yet: the first of `owingCount`. */
  owing: z.array(z.object({ item: id, case: z.string(), owed: z.array(z.enum(askables)) })),
  owingCount: z.number(),
  /** Cases of its items that are in quarantine: left out of the outcome. */
  quarantined: z.array(z.string()),
  /** How many attempts were made at its items. */
  attempts: z.number(),
  /** How many verdicts of it are in which of the project's own words. */
  words: z.record(z.string(), z.number()),
  /** What it was composed of, and for which reasons. */
  composed: composedShown.nullable(),
  /** Verdicts given after the close, which count where they amend; the newest of `afterCloseCount`, of which `amendedCount` count. */
  afterClose: z.array(
    z.object({
      item: id,
      case: z.string(),
      person: z.string().nullable(),
      verdict: z.string(),
      at: instant,
      counts: z.boolean(),
    }),
  ),
  amendedCount: z.number(),
  afterCloseCount: z.number(),
})
export type RunSheet = z.infer<typeof runSheet>

const runs = '/projects/:key/runs'
const list = { query: listQuery, body: none }
export const listRuns = contract({
  name: 'listRuns',
  method: 'GET',
  path: runs,
  permission: 'read',
  summary: 'Runs',
  params: projectParams,
  ...list,
  output: pageOf(runRow),
})
export const orderRuns = contract({
  name: 'orderRuns',
  method: 'GET',
  path: `${runs}/order`,
  permission: 'read',
  summary: 'Ids of the list in their order',
  params: projectParams,
  ...list,
  output: orderAnswer,
})
export const createRun = contract({
  name: 'createRun',
  method: 'POST',
  path: runs,
  permission: 'leadRuns',
  summary: 'Open a run over a plan’s suites, or named suites or cases, for one or more environments',
  params: projectParams,
  query: none,
  body: z.object({
    title: line(200),
    build: idOf('build'),
    plan: idOf('plan').nullable().default(null),
    suites: z.array(idOf('suite')).max(200).default([]),
    cases: z.array(idOf('test_case')).max(20_000).default([]),
    /** Whatever covers them or what is below them. */
    requirements: z.array(idOf('requirement')).max(500).default([]),
    /** The cases they are linked to. */
    defects: z.array(idOf('defect')).max(500).default([]),
    environments: z.array(idOf('environment')).max(50).default([]),
    /** Exactly these items and no others. */
    items: z.array(slotSaid).max(20_000).optional(),
    people: z.array(memberId).max(100).default([]),
    startOn: plainDate,
    endOn: plainDate,
    state: z.enum(['Planned', 'Open']).default('Open'),
    deal: z.boolean().default(false),
    /** Rules of its own; none: those of the project. */
    policy: policy.nullable().default(null),
    /** What the items were composed of, to be kept with the run. */
    composed: composedSaid.optional(),
  }),
  /** `leftOut`: cases that cannot be tested yet. */
  output: z.object({ id, key: z.string(), items: z.number(), leftOut: z.number() }),
})
export const readRun = contract({
  name: 'readRun',
  method: 'GET',
  path: `${runs}/:ref`,
  permission: 'read',
  summary: 'A run with its team and figures',
  params: refParams('run'),
  query: none,
  body: none,
  output: runSheet,
})
export const updateRun = contract({
  name: 'updateRun',
  method: 'PATCH',
  path: `${runs}/:ref`,
  permission: 'leadRuns',
  summary: 'Change a run',
  params: refParams('run'),
  query: none,
  body: z
    .object({
      title: line(200),
      state: z.enum(runStates),
      /** Why it ends; asked for where it ends early. */
      reason: z.string().trim().max(500),
      build: idOf('build'),
      startOn: plainDate,
      endOn: plainDate,
      people: z.array(memberId).max(100),
      /** Rules of its own; null: those of the project. */
      policy: policy.nullable(),
    })
    .partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
export const listItems = contract({
  name: 'listItems',
  method: 'GET',
  path: `${runs}/:ref/items`,
  permission: 'read',
  summary: 'Items of a run',
  params: refParams('run'),
  ...list,
  output: pageOf(itemRow),
})
export const orderItems = contract({
  name: 'orderItems',
  method: 'GET',
  path: `${runs}/:ref/items/order`,
  permission: 'read',
  summary: 'Ids of the list in their order',
  params: refParams('run'),
  ...list,
  output: orderAnswer,
})
/** What may be set on many items at once. */
const itemSet = z
  .object({
    assigneeId: memberId.nullable(),
    estimate: z.number().int().min(1).max(10_000).nullable(),
    dueOn: plainDate.nullable(),
  })
  .partial()
export type ItemSet = z.infer<typeof itemSet>

export const changeItems = contract({
  name: 'changeItems',
  method: 'PATCH',
  path: `${runs}/:ref/items`,
  permission: 'leadRuns',
  summary: 'Assign, estimate or date many items; undo with the values answered',
  params: refParams('run'),
  query: none,
  body: manyBody('item', itemSet),
  output: manyAnswer(itemSet),
})
export const dealItems = contract({
  name: 'dealItems',
  method: 'POST',
  path: `${runs}/:ref/deal`,
  permission: 'leadRuns',
  summary: 'Deal what is unassigned (or the ids) evenly over the team by minutes',
  params: refParams('run'),
  query: none,
  body: z.object({ ids: z.array(idOf('item')).max(20_000).optional() }),
  output: z.object({ dealt: z.number(), undo: z.array(z.object({ id, set: z.record(z.string(), z.unknown()) })) }),
})

/** As it is executed; `from` names the routine or case it comes from. */
const deskStep = stepShape.omit({ use: true }).extend({ id, from: z.string() })
const markShape = said.extend({
  row: z.number().int().min(1),
  step: id,
  comment: z.string(),
  at: instant,
})
const evidenceShape = z.object({
  id,
  name: z.string(),
  mime: z.string(),
  size: z.number(),
  row: z.number().nullable(),
  step: id.nullable(),
  at: instant,
  url: z.string(),
})
export type Evidence = z.infer<typeof evidenceShape>
export const attemptShape = z.object({
  id,
  item: id.nullable(),
  verdict,
  /** The project's own word it is shown by. */
  word: z.string().nullable(),
  final: z.boolean(),
  /** What was said of the whole, and in which word. */
  whole: said.nullable(),
  override: z.string().nullable(),
  version: z.string(),
  build: z.string(),
  environment: z.string(),
  startedAt: instant,
  finishedAt: instant.nullable(),
  seconds: z.number(),
  comment: z.string(),
  /** Which of the project's reasons was given. */
  reason: z.string().nullable(),
  /** The rules it began under. */
  policy,
  /** Why it is doubted. */
  doubt: z.string().nullable(),
  preconditions: z.string(),
  steps: z.array(deskStep),
  rows: z.array(z.record(z.string(), z.string())),
  marks: z.array(markShape),
  evidence: z.array(evidenceShape),
  canUndo: z.boolean(),
  /** How many of its verdicts came late, after the close, or with a time that could not be. */
  odd: z.object({ late: z.number(), afterClose: z.number(), amended: z.number(), doubtful: z.number() }),
})
export type DeskAttempt = z.infer<typeof attemptShape>
const deskShape = z.object({
  run: z.object({
    key: z.string(),
    title: z.string(),
    state: z.enum(runStates),
    build: z.string(),
    buildId: id,
    /** The rules a new attempt begins under. */
    policy,
    /** Until when whoever asks may amend results, of a run that is closed. */
    amendUntil: instant.nullable(),
  }),
  /** What stands in the environment now, where that is known. */
  installed: z.object({ build: id, name: z.string(), since: instant, by: z.string().nullable() }).nullable(),
  item: itemRow,
  case: z.object({ key: z.string(), title: z.string(), objective: z.string() }),
  requirements: z.array(z.object({ key: z.string(), title: z.string() })),
  /** Cases that must have run before, with their verdict in this run (none: not part of it), and the environment the case needs. */
  needs: z.array(z.object({ key: z.string(), title: z.string(), verdict: verdict.nullable() })),
  wants: z.string(),
  attempt: attemptShape.nullable(),
  preview: z.object({
    preconditions: z.string(),
    steps: z.array(deskStep),
    rows: z.array(z.record(z.string(), z.string())),
    version: z.string(),
  }),
  before: z.array(z.object({ id, verdict, build: z.string(), environment: z.string(), at: instant.nullable() })),
  defects: z.array(z.object({ key: z.string(), title: z.string(), state: z.string(), here: z.boolean() })),
  queue: z.array(
    z.object({ id, case: z.string(), title: z.string(), minutes: z.number(), verdict, environment: z.string() }),
  ),
  place: z.object({ at: z.number(), of: z.number() }),
})
export type Desk = z.infer<typeof deskShape>

export const readDesk = contract({
  name: 'readDesk',
  method: 'GET',
  path: '/projects/:key/items/:id',
  permission: 'read',
  summary: 'An item as the desk shows it',
  params: idParams('item'),
  query: z.object({ mine: z.enum(['yes', 'no']).optional() }),
  body: none,
  output: deskShape,
})
export const startAttempt = contract({
  name: 'startAttempt',
  method: 'POST',
  path: '/projects/:key/items/:id/attempts',
  permission: 'execute',
  summary: 'Start an attempt on the build that stands in the environment, else on the run’s; pins the case version',
  params: idParams('item'),
  query: none,
  body: z.object({
    at: instant.optional(),
    /** Which of the two it is, where the run expects another build than stands there. */
    build: idOf('build').optional(),
  }),
  output: attemptShape,
})

const attempts = '/projects/:key/attempts/:id'
const stepParams = idParams('attempt').extend({
  row: z.coerce.number().int().min(1),
  step: idInPath('step'),
})
export const recorded = z.object({
  attempt: attemptShape,
  storedAt: instant,
  itemVerdict: verdict.nullable(),
  ...became,
})
export const recordStep = contract({
  name: 'recordStep',
  method: 'PUT',
  path: `${attempts}/rows/:row/steps/:step`,
  permission: 'execute',
  summary: 'Give a step of a data row its verdict (row 1 when there are none)',
  params: stepParams,
  query: none,
  body: z.object({ verdict, word: z.string().max(40).nullable().default(null), ...event }),
  output: z.object({ verdict, final: z.boolean(), itemVerdict: verdict.nullable(), storedAt: instant, ...became }),
})
export const recordWhole = contract({
  name: 'recordWhole',
  method: 'PUT',
  path: `${attempts}/verdict`,
  permission: 'execute',
  summary: 'A verdict for the whole item; `null` lifts it',
  params: idParams('attempt'),
  query: none,
  body: z.object({
    verdict: finalVerdict.nullable(),
    /** One of the project's own verdicts; what it counts as is taken from it. */
    word: z.string().max(40).nullable().default(null),
    reason: z.string().max(1000).nullable().default(null),
    ...event,
  }),
  output: recorded,
})
export const undoVerdict = contract({
  name: 'undoVerdict',
  method: 'POST',
  path: `${attempts}/undo`,
  permission: 'execute',
  summary: 'Take back your newest verdict in this attempt',
  params: idParams('attempt'),
  query: none,
  body: z.object(event),
  output: recorded,
})
export const addEvidence = contract({
  name: 'addEvidence',
  method: 'POST',
  path: `${attempts}/evidence`,
  permission: 'execute',
  summary: 'Attach a file (the body) to an attempt, or a step of it',
  params: idParams('attempt'),
  query: z.object({
    row: z.coerce.number().int().min(1).optional(),
    step: idInPath('step').optional(),
    name: z.string().max(200).default('evidence'),
  }),
  body: z.unknown(),
  output: evidenceShape,
  raw: true,
})
export const readEvidence = contract({
  name: 'readEvidence',
  method: 'GET',
  path: '/projects/:key/evidence/:id',
  permission: 'read',
  summary: 'The bytes of an attachment',
  params: idParams('attachment'),
  query: none,
  body: none,
  output: z.unknown(),
  raw: true,
})
