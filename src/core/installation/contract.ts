import { done, line, none, projectParams } from '#core/lib/shapes.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'

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

export const health = contract({
  name: 'health',
  method: 'GET',
  path: '/healthz',
  permission: 'open',
  summary: 'Is the server up',
  params: none,
  query: none,
  body: none,
  output: z.object({ ok: z.literal(true), version: z.string() }),
})

export const describeApi = contract({
  name: 'describeApi',
  method: 'GET',
  path: '/openapi.json',
  permission: 'open',
  summary: 'This description of the API',
  params: none,
  query: none,
  body: none,
  output: z.looseObject({ openapi: z.string() }),
})

const hosts = z
  .array(
    z
      .string()
      .trim()
      .toLowerCase()
      .regex(/^[\w.:-]+$/, 'a host is a name or an address, without http and port')
      .max(200),
  )
  .max(50)
const hostsPath = { path: '/hosts-inside', permission: 'administrator', params: none, query: none } as const
export const readHostsInside = contract({
  ...hostsPath,
  name: 'readHostsInside',
  method: 'GET',
  summary: 'Hosts of the own network that may be asked from here, such as a tracker in the house',
  body: none,
  output: z.object({ hosts }),
})
export const allowHostsInside = contract({
  ...hostsPath,
  name: 'allowHostsInside',
  method: 'PUT',
  summary: 'Say which hosts of the own network may be asked; all others inside are refused',
  body: z.object({ hosts }),
  output: done,
})
