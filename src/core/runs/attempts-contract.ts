import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { manyAnswer, manyBody, mostAtOnce, stopped } from '#core/lib/many.ts'
import { idOf, idsOf, memberId } from '#core/lib/owned.ts'
import {
  id,
  idParams,
  instant,
  line,
  listQuery,
  none,
  orderAnswer,
  pageOf,
  projectParams,
  scopeQuery,
} from '#core/lib/shapes.ts'
import { verdict } from '#core/lib/verdict.ts'
import { attemptShape } from './desk-contract.ts'
import { timings } from './timing.ts'

/** An attempt as a list shows it. */
const attemptRow = z.object({
  id,
  case: z.string(),
  caseId: id,
  title: z.string(),
  version: z.string(),
  verdict,
  word: z.string().nullable(),
  final: z.boolean(),
  environment: z.string(),
  build: z.string(),
  run: z.string().nullable(),
  item: id.nullable(),
  /** Who executed it; a machine has no name. */
  person: z.string().nullable(),
  /** Who recorded its verdicts, where that was somebody else. */
  recordedBy: z.string().nullable(),
  startedAt: instant,
  finishedAt: instant.nullable(),
  seconds: z.number(),
  timing: z.enum(timings),
  reason: z.string().nullable(),
  comment: z.string(),
  defects: z.array(z.string()),
  evidence: z.number(),
  doubt: z.string().nullable(),
  struck: z.string().nullable(),
  /** It is what counts for its case there on its build. */
  stands: z.boolean(),
})
export type AttemptRow = z.infer<typeof attemptRow>

const attempts = '/projects/:key/attempts'
export const listAttempts = contract({
  name: 'listAttempts',
  method: 'GET',
  path: attempts,
  permission: 'read',
  summary: 'Every attempt, the newest first',
  params: projectParams,
  query: listQuery,
  body: none,
  output: pageOf(attemptRow),
})
export const orderAttempts = contract({
  name: 'orderAttempts',
  method: 'GET',
  path: `${attempts}/order`,
  permission: 'read',
  summary: 'Ids of the list in their order',
  params: projectParams,
  query: listQuery,
  body: none,
  output: orderAnswer,
})
export const readAttempt = contract({
  name: 'readAttempt',
  method: 'GET',
  path: `${attempts}/:id`,
  permission: 'read',
  summary: 'An attempt with its steps, values, comments and evidence, as it was executed',
  params: idParams('attempt'),
  query: none,
  body: none,
  output: z.object({ row: attemptRow, attempt: attemptShape }),
})
export type ReadAttempt = z.infer<typeof readAttempt.output>

/** What may be put right about many attempts at once. */
const attemptSet = z
  .object({
    /** Why it is struck out; `null` takes it back. */
    struck: line(500).nullable(),
    buildId: idOf('build'),
    environmentId: idOf('environment'),
    personId: memberId,
  })
  .partial()
export type AttemptSet = z.infer<typeof attemptSet>
export const changeAttempts = contract({
  name: 'changeAttempts',
  method: 'PATCH',
  path: attempts,
  permission: 'leadRuns',
  summary:
    'Strike attempts out, or put right where, on which build and by whom they were made; undo with the values answered',
  params: projectParams,
  query: none,
  body: manyBody('attempt', attemptSet),
  output: manyAnswer(attemptSet),
})

const slotShape = z.object({ case: id, environment: id, key: z.string(), title: z.string(), minutes: z.number() })
const fallen = z.object({
  key: z.string(),
  title: z.string(),
  environment: z.string(),
  from: verdict,
  to: verdict,
  /** What would count instead. */
  by: z.string().nullable(),
})
/** What rests on attempts: what falls in a scope if they are not believed. */
const doubtTold = z.object({
  attempts: z.number(),
  /** Slots whose verdict falls; the first of `slotCount`. */
  slots: z.array(fallen),
  slotCount: z.number(),
  requirements: z.array(z.object({ key: z.string(), title: z.string(), from: z.string(), to: z.string() })),
  requirementCount: z.number(),
  /** Share of passing slots, before and after; `null`: there is no slot. */
  passing: z.object({ before: z.number().nullable(), after: z.number().nullable() }),
  criteria: z.array(z.object({ plan: z.string(), said: z.string(), from: z.string(), to: z.string() })),
  signOffs: z.array(
    z.object({ plan: z.string(), title: z.string(), version: z.number(), person: z.string(), at: instant }),
  ),
  defects: z.array(z.object({ key: z.string(), title: z.string(), closedAt: instant })),
  /** The fewest items that would settle what falls, as `POST …/runs` takes them, with their minutes. */
  repair: z.array(slotShape),
  minutes: z.number(),
})
export type DoubtTold = z.infer<typeof doubtTold>

export const tellDoubt = contract({
  name: 'tellDoubt',
  method: 'POST',
  path: '/projects/:key/doubts/told',
  permission: 'read',
  summary:
    'What would fall in a scope if some attempts were not believed, and the fewest items that would settle it; changes nothing',
  params: projectParams,
  query: scopeQuery,
  body: z.object({ ids: idsOf('attempt', mostAtOnce) }),
  output: doubtTold,
})
const doubtRow = z.object({
  id,
  reason: z.string(),
  attempts: z.number(),
  person: z.string().nullable(),
  at: instant,
  liftedAt: instant.nullable(),
  liftedBy: z.string().nullable(),
})
export const listDoubts = contract({
  name: 'listDoubts',
  method: 'GET',
  path: '/projects/:key/doubts',
  permission: 'read',
  summary: 'Doubts, the newest first, with who lifted them and when',
  params: projectParams,
  query: z.object({ limit: z.coerce.number().int().min(1).max(200).default(50) }),
  body: none,
  output: z.object({ rows: z.array(doubtRow) }),
})
export const doubtAttempts = contract({
  name: 'doubtAttempts',
  method: 'POST',
  path: '/projects/:key/doubts',
  permission: 'leadRuns',
  summary: 'Doubt attempts in one dated act: they stay readable, and no result of theirs is current until it is lifted',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('attempt', mostAtOnce), reason: line(500) }),
  output: z.object({ id, attempts: z.number(), stopped: stopped.nullable() }),
})
export const liftDoubt = contract({
  name: 'liftDoubt',
  method: 'POST',
  path: '/projects/:key/doubts/:id/lift',
  permission: 'leadRuns',
  summary: 'Lift a doubt: its attempts are believed again',
  params: idParams('doubt_act'),
  query: none,
  body: none,
  output: z.object({ attempts: z.number(), stopped: stopped.nullable() }),
})
