import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf, memberId } from '#core/lib/owned.ts'
import { done, id, idParams, instant, line, none, orUndo, projectParams, text } from '#core/lib/shapes.ts'

const outageShape = z.object({
  id,
  fromAt: instant,
  untilAt: instant.nullable(),
  reason: z.string(),
  by: z.string().nullable(),
  /** Attempts made in the environment meanwhile. */
  attempts: z.number(),
  /** Of these, how many are doubted. */
  doubted: z.number(),
})
const environmentRow = z.object({
  id,
  name: z.string(),
  values: z.record(z.string(), z.string()),
  seats: z.number().nullable(),
  owner: z.object({ id: z.string(), name: z.string() }).nullable(),
  address: z.string(),
  notes: z.string(),
  /** The rule by which it is not allowed; it is not asked for then. */
  notAllowed: z.string().nullable(),
  outages: z.array(outageShape),
  /** What stands there now, where that is known. */
  installed: z.object({ build: z.string(), buildId: id, since: instant, by: z.string().nullable() }).nullable(),
  /** Plans that ask for it. */
  plans: z.number(),
})
export type EnvironmentRow = z.infer<typeof environmentRow>

export const listEnvironments = contract({
  name: 'listEnvironments',
  method: 'GET',
  path: '/projects/:key/environments',
  permission: 'read',
  summary: 'Environments with their factors, outages and who owns them',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({
    rows: z.array(environmentRow),
    factors: z.string(),
    factorRules: z.string(),
    /** Values by factor. */
    values: z.record(z.string(), z.array(z.string())),
    problems: z.array(z.string()),
  }),
})
export const setFactors = contract({
  name: 'setFactors',
  method: 'PUT',
  path: '/projects/:key/factors',
  permission: 'setUp',
  summary: 'Say the factors of environments with their values, and combinations that are not allowed, a line each',
  params: projectParams,
  query: none,
  body: z.object({ factors: text(5000), factorRules: text(5000) }).partial(),
  output: done,
})
const address = z.union([
  z.literal(''),
  z.url({ protocol: /^https?$/, error: 'an address begins with http:// or https://' }).max(300),
])
const environmentEdit = z
  .object({
    name: line(60),
    seats: z.number().int().min(1).max(10_000).nullable(),
    owner: memberId.nullable(),
    address,
    notes: text(2000),
    values: z.record(line(40), line(60)),
  })
  .partial()
export const updateEnvironment = contract({
  name: 'updateEnvironment',
  method: 'PATCH',
  path: '/projects/:key/environments/:id',
  permission: 'setUp',
  summary: 'Change an environment',
  params: idParams('environment'),
  query: none,
  body: environmentEdit,
  output: done,
})
export const removeEnvironment = contract({
  name: 'removeEnvironment',
  method: 'DELETE',
  path: '/projects/:key/environments/:id',
  permission: 'setUp',
  summary: 'Take an environment away, or bring it back; its results stay',
  params: idParams('environment'),
  query: orUndo,
  body: none,
  output: done,
})
const interval = {
  fromAt: instant,
  untilAt: instant.nullable().default(null),
  reason: line(200),
}
export const addOutage = contract({
  name: 'addOutage',
  method: 'POST',
  path: '/projects/:key/outages',
  permission: 'execute',
  summary: 'Say that an environment is not to be used; items not begun there are held until it ends',
  params: projectParams,
  query: none,
  body: z.object({ environment: idOf('environment'), ...interval }),
  output: z.object({ id }),
})
export const changeOutage = contract({
  name: 'changeOutage',
  method: 'PATCH',
  path: '/projects/:key/outages/:id',
  permission: 'execute',
  summary: 'Change an outage, or end it',
  params: idParams('outage'),
  query: none,
  body: z.object({ fromAt: instant, untilAt: instant.nullable(), reason: line(200) }).partial(),
  output: done,
})
export const removeOutage = contract({
  name: 'removeOutage',
  method: 'DELETE',
  path: '/projects/:key/outages/:id',
  permission: 'execute',
  summary: 'Take back that there was an outage, or say it again',
  params: idParams('outage'),
  query: orUndo,
  body: none,
  output: done,
})
export const doubtOutage = contract({
  name: 'doubtOutage',
  method: 'POST',
  path: '/projects/:key/outages/:id/doubt',
  permission: 'leadRuns',
  summary: 'Doubt the attempts made in an outage, or believe them again: doubted results are current no more',
  params: idParams('outage'),
  query: none,
  body: z.object({ doubt: z.boolean() }),
  output: z.object({ attempts: z.number(), stopped: z.string().nullable() }),
})
