import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, id, instant, line, none, projectParams } from '#core/lib/shapes.ts'

export const roles = ['viewer', 'tester', 'lead'] as const
export const role = z.enum(roles)
export type Role = z.infer<typeof role>

export const personShape = z.object({ id: z.string(), name: z.string(), initials: z.string() })
export const me = z.object({
  id: z.string(),
  name: z.string(),
  email: z.string(),
  administrator: z.boolean(),
  projects: z.array(z.object({ key: z.string(), name: z.string(), product: z.string(), role })),
})
export type Me = z.infer<typeof me>

export const signIn = contract({
  name: 'signIn',
  method: 'POST',
  path: '/sign-in',
  permission: 'open',
  summary: 'Sign in; sets the sign-in cookie',
  params: none,
  query: none,
  body: z.object({
    email: z.email('an e-mail address looks like mira@tarnsey.example'),
    password: z.string().min(1, 'may not be empty').max(200),
  }),
  output: me,
})
export const setUpFirst = contract({
  name: 'setUpFirst',
  method: 'POST',
  path: '/set-up',
  permission: 'open',
  summary: 'Set up the first administrator and project with the one-time code from the console',
  params: none,
  query: none,
  output: done,
  body: z.object({
    code: line(60),
    name: line(100),
    email: z.email('an e-mail address looks like mira@tarnsey.example'),
    password: z.string().min(10, 'has fewer than ten characters').max(200),
    projectKey: projectParams.shape.key,
    projectName: line(100),
  }),
})
export const signOut = contract({
  name: 'signOut',
  method: 'DELETE',
  path: '/sign-in',
  permission: 'open',
  summary: 'Sign out',
  params: none,
  query: none,
  body: none,
  output: done,
})
export const readMe = contract({
  name: 'readMe',
  method: 'GET',
  path: '/me',
  permission: 'person',
  summary: 'Who is signed in, with their projects',
  params: none,
  query: none,
  body: none,
  output: me,
})

const nothing = { path: '/projects/:key/nothing', params: projectParams, output: done } as const
export const askNothing = contract({
  ...nothing,
  name: 'askNothing',
  method: 'GET',
  permission: 'viewer',
  summary: 'Checks the sign-in and the role and answers: what the way to the server costs',
  query: none,
  body: none,
})
export const doNothing = contract({
  ...nothing,
  name: 'doNothing',
  method: 'PUT',
  permission: 'tester',
  summary: 'Checks the sign-in, the role and a body of a verdict’s size, and stores nothing',
  query: none,
  body: z.object({ verdict: z.string().max(40), client: z.string().max(64), sequence: z.number(), at: z.number() }),
})

export const historyEntry = z.object({
  id,
  at: instant,
  person: z.string().nullable(),
  kind: z.string(),
  ref: z.string(),
  action: z.string(),
  detail: z.record(z.string(), z.tuple([z.unknown(), z.unknown()])).nullable(),
})
export type HistoryEntry = z.infer<typeof historyEntry>
export const listHistory = contract({
  name: 'listHistory',
  method: 'GET',
  path: '/projects/:key/history',
  permission: 'viewer',
  summary: 'Changes, newest first; of one object with `ref`',
  params: projectParams,
  query: z.object({
    ref: z.string().max(20).optional(),
    before: z.coerce.number().int().optional(),
    limit: z.coerce.number().int().min(1).max(200).default(50),
  }),
  body: none,
  output: z.object({ rows: z.array(historyEntry), next: z.number().nullable() }),
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
  permission: 'tester',
  summary: 'Brings deleted objects back',
  params: projectParams,
  query: none,
  body: z.object({ refs: z.array(line(20)).min(1).max(5000) }),
  output: done,
})
