import { stopped } from '#core/lib/many.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { actKinds } from './acts.ts'
import { done, id, instant, line, none, projectParams } from '#core/lib/shapes.ts'

const historyEntry = z.object({
  id,
  at: instant,
  person: z.string().nullable(),
  kind: z.string(),
  ref: z.string(),
  action: z.string(),
  detail: z.record(z.string(), z.tuple([z.unknown(), z.unknown()])).nullable(),
})
export type HistoryEntry = z.infer<typeof historyEntry>
const historyFilter = {
  ref: z.string().max(20).optional(),
  person: z.string().max(60).optional(),
  kind: z.enum(actKinds).optional(),
  from: z.coerce.number().int().optional(),
  to: z.coerce.number().int().optional(),
}
export const listHistory = contract({
  name: 'listHistory',
  method: 'GET',
  path: '/projects/:key/history',
  permission: 'read',
  summary: 'Changes, newest first; of one object with `ref`, by a person, of a kind, in a time',
  params: projectParams,
  query: z.object({
    ...historyFilter,
    before: z.coerce.number().int().optional(),
    limit: z.coerce.number().int().min(1).max(200).default(50),
  }),
  body: none,
  output: z.object({ rows: z.array(historyEntry), next: z.number().nullable() }),
})
export const historyCsv = contract({
  name: 'historyCsv',
  method: 'GET',
  path: '/projects/:key/history.csv',
  permission: 'read',
  summary: 'The same as CSV, at most 100,000',
  params: projectParams,
  query: z.object(historyFilter),
  body: none,
  output: z.unknown(),
  raw: true,
})
export const streamEvents = contract({
  name: 'streamEvents',
  method: 'GET',
  path: '/events',
  permission: 'person',
  summary: 'Changes as server-sent events; resumes by Last-Event-ID',
  params: none,
  query: z.object({ project: z.string() }),
  body: none,
  output: z.unknown(),
  raw: true,
})
export const restoreObject = contract({
  name: 'restoreObject',
  method: 'POST',
  path: '/projects/:key/restore',
  permission: 'bringBack',
  summary: 'Brings deleted objects back',
  params: projectParams,
  query: none,
  body: z.object({ refs: z.array(line(20)).min(1).max(5000) }),
  output: done.extend({ stopped }),
})
const jobParams = projectParams.extend({ job: z.string().max(60) })
export const readGoing = contract({
  name: 'readGoing',
  method: 'GET',
  path: '/projects/:key/going/:job',
  permission: 'read',
  summary: 'How far a long act of one’s own is, by the name that its request gave in the header Rovant-Job',
  params: jobParams,
  query: none,
  body: none,
  output: z.object({ done: z.number(), of: z.number() }),
})
export const stopGoing = contract({
  name: 'stopGoing',
  method: 'DELETE',
  path: '/projects/:key/going/:job',
  permission: 'read',
  summary: 'Stop a long act of one’s own; its own request answers what was done so far',
  params: jobParams,
  query: none,
  body: none,
  output: done,
})
