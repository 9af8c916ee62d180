import { z } from 'zod'
import { itemRow } from './item-row.ts'
import { became, event } from './event-shape.ts'
import { policy } from '#core/projects/policy.ts'
import { runStates } from './state.ts'
import { timings } from './timing.ts'
import { waitStates } from './waits.ts'
import { stepShape } from '#core/cases/contract.ts'
import { contract } from '#core/lib/contract.ts'
import { idInPath, idOf } from '#core/lib/owned.ts'
import { id, idParams, instant, none } from '#core/lib/shapes.ts'
import { finalVerdict, said, verdict } from '#core/lib/verdict.ts'

// One item at the desk: its attempt, verdicts and evidence.

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
  timing: z.enum(timings),
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
    z.object({
      id,
      case: z.string(),
      title: z.string(),
      minutes: z.number(),
      verdict,
      environment: z.string(),
      waits: z.enum(waitStates).nullable(),
    }),
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
