import { z } from 'zod'
import { reserve } from '#core/projects/reserve.ts'
import { itemRow } from './item-row.ts'
import { composedSaid, composedShown, slotSaid } from './compose-contract.ts'
import { dealingWays } from '#core/projects/dealing-ways.ts'
import { askables, policy } from '#core/projects/policy.ts'
import { isRowsText } from './data-rows.ts'
import { runStates } from './state.ts'
import { manyAnswer, manyBody } from '#core/lib/many.ts'
import { contract } from '#core/lib/contract.ts'
import { idOf, memberId } from '#core/lib/owned.ts'
import {
  id,
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
  tags: z.array(z.string()),
  version: z.number(),
})
export type RunRow = z.infer<typeof runRow>
const runSheet = runRow.extend({
  aim: z.string(),
  dataRows: z.string(),
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
const rowsText = z.string().trim().max(100).refine(isRowsText, 'names data rows as 1, 3-5')

/** What a run is made of. */
const newRun = z.object({
  title: line(200),
  /** What it is to find out. */
  aim: z.string().trim().max(500).default(''),
  /** Which data rows of each case are executed, as `1, 3-5`; empty: all. */
  dataRows: rowsText.default(''),
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
  /** To whom its items go. */
  deal: z.enum(dealingWays).default('nobody'),
  /** Rules of its own; none: those of the project. */
  policy: policy.nullable().default(null),
  /** What the items were composed of, to be kept with the run. */
  composed: composedSaid.optional(),
})
export const createRun = contract({
  name: 'createRun',
  method: 'POST',
  path: runs,
  permission: 'leadRuns',
  summary: 'Open a run over a plan’s suites, or named suites or cases, for one or more environments',
  params: projectParams,
  query: none,
  body: newRun,
  /** `leftOut`: cases that cannot be tested yet. */
  output: z.object({ id, key: z.string(), items: z.number(), leftOut: z.number() }),
})
/** What a run would be, before it is opened. */
export const previewRun = contract({
  name: 'previewRun',
  method: 'POST',
  path: `${runs}/preview`,
  permission: 'read',
  summary:
    'What a run would hold: items and minutes, cases that cannot be executed yet, and rows of data that are missing',
  params: projectParams,
  query: none,
  body: newRun
    .pick({
      build: true,
      plan: true,
      suites: true,
      cases: true,
      requirements: true,
      defects: true,
      environments: true,
      items: true,
      policy: true,
      people: true,
    })
    .extend({ startOn: plainDate.optional(), endOn: plainDate.optional() }),
  output: z.object({
    items: z.number(),
    minutes: z.number(),
    /** Cases that cannot be tested yet and are left out, and cases that have no approved version: the first, and how many. */
    leftOut: z.array(z.string()),
    leftOutCount: z.number(),
    unapproved: z.array(z.string()),
    unapprovedCount: z.number(),
    /** Minutes its people can give the project on its days, and the names of those who have none; `null`: nobody, or no days are said. */
    team: z.object({ minutes: z.number(), none: z.array(z.string()) }).nullable(),
    /** Rows of data tables that are used up by executing: what the items take, and what is left. */
    data: z.array(z.object({ table: z.string(), environment: z.string(), needed: z.number(), left: z.number() })),
  }),
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
      aim: z.string().trim().max(500),
      dataRows: rowsText,
      state: z.enum(runStates),
      /** Why it ends; asked for where it ends early. */
      reason: z.string().trim().max(500),
      build: idOf('build'),
      startOn: plainDate,
      endOn: plainDate,
      people: z.array(memberId).max(100),
      /** What of its team's time is kept for retests, in per cent; null: as in its project. */
      reservePercent: reserve.nullable(),
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
    /** So many people judge it, each for themselves, and it passes when so many of them pass it. */
    people: z.number().int().min(1).max(9),
    passes: z.number().int().min(1).max(9),
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
  summary: 'Deal what is unassigned (or the ids) over the team by minutes, evenly or first to those who know it',
  params: refParams('run'),
  query: none,
  body: z.object({
    ids: z.array(idOf('item')).max(20_000).optional(),
    way: z.enum(dealingWays).exclude(['nobody']).default('evenly'),
  }),
  /** `known`: how many went to somebody who knows them. */
  output: z.object({
    dealt: z.number(),
    known: z.number(),
    undo: z.array(z.object({ id, set: z.record(z.string(), z.unknown()) })),
  }),
})
