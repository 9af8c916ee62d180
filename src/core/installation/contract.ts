import { done, line, none, projectParams } from '#core/lib/shapes.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { email, newPassword } from '#core/people/contract.ts'

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
    email,
    password: newPassword,
    projectKey: projectParams.shape.key,
    projectName: line(100),
  }),
})

const nothing = { path: '/projects/:key/nothing', params: projectParams, output: done } as const
export const askNothing = contract({
  ...nothing,
  name: 'askNothing',
  method: 'GET',
  permission: 'read',
  summary: 'Checks the sign-in and the role and answers: what the way to the server costs',
  query: none,
  body: none,
})
export const doNothing = contract({
  ...nothing,
  name: 'doNothing',
  method: 'PUT',
  permission: 'execute',
  summary: 'Checks the sign-in, the role and a body of a verdict’s size, and stores nothing',
  query: none,
  body: z.object({ verdict: z.string().max(40), client: z.string().max(64), sequence: z.number(), at: z.number() }),
})

export const health = contract({
  name: 'health',
  method: 'GET',
  path: '/healthz',
  permission: 'open',
  summary: 'Is the server up, and can it store; asked at /healthz it answers 503 when it cannot',
  params: none,
  query: none,
  body: none,
  output: z.object({
    ok: z.boolean(),
    version: z.string(),
    /** What is wrong, a sentence each. */
    problems: z.array(z.string()),
  }),
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
const hostsPath = { path: '/hosts-inside', permission: 'keepInstallation', params: none, query: none } as const
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

const signInPath = { path: '/signing-in', permission: 'keepInstallation', params: none, query: none } as const
export const readSigningIn = contract({
  ...signInPath,
  name: 'readSigningIn',
  method: 'GET',
  summary: 'How people come in: whether everybody is asked for a second factor, whether mail leaves from here',
  body: none,
  output: z.object({
    secondFactorAsked: z.boolean(),
    mail: z.boolean(),
    /** What links in letters begin with. */
    address: z.string().nullable(),
  }),
})
export const updateSigningIn = contract({
  ...signInPath,
  name: 'updateSigningIn',
  method: 'PATCH',
  summary: 'Ask everybody for a second factor, or nobody',
  body: z.object({ secondFactorAsked: z.boolean() }),
  output: done,
})
export const readStorage = contract({
  name: 'readStorage',
  method: 'GET',
  path: '/storage',
  permission: 'keepInstallation',
  summary: 'What is kept here and how much of it there is, in bytes',
  params: none,
  query: none,
  body: none,
  output: z.object({
    database: z.number(),
    /** Evidence and files, each once, however often they are attached. */
    files: z.number(),
    fileBytes: z.number(),
    /** Where they are; and why they could not be counted, if so. */
    filesIn: z.string(),
    filesProblem: z.string().nullable(),
    /** Free on the disk of the data directory. */
    free: z.number(),
    projects: z.array(
      z.object({
        key: z.string(),
        name: z.string(),
        requirements: z.number(),
        cases: z.number(),
        attempts: z.number(),
      }),
    ),
  }),
})
