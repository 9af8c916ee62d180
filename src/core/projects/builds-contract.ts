import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { done, id, idParams, line, none, projectParams, text } from '#core/lib/shapes.ts'
import { buildStates } from './builds.ts'

/** What a build touches; `null`: nobody said it, so everything. */
const touches = z
  .object({
    components: z.array(line(100)).max(200),
    requirements: z.array(idOf('requirement')).max(500),
  })
  .nullable()
export const createBuild = contract({
  name: 'createBuild',
  method: 'POST',
  path: '/projects/:key/builds',
  permission: 'setUp',
  summary: 'Offer a build for testing, or take it into intake',
  params: projectParams,
  query: none,
  body: z.object({
    release: idOf('release'),
    name: line(60),
    state: z.enum(['Intake', 'Offered']).default('Offered'),
    notes: text(5000).default(''),
    touches: touches.default(null),
  }),
  output: z.object({ id }),
})
export const updateBuild = contract({
  name: 'updateBuild',
  method: 'PATCH',
  path: '/projects/:key/builds/:id',
  permission: 'setUp',
  summary: 'Change a build: offer it, refuse it, withdraw it; its notes and what it touches',
  params: idParams('build'),
  query: none,
  body: z
    .object({
      state: z.enum(buildStates),
      notes: text(5000),
      touches,
      /** Why it is offered although its smoke suite has not passed. */
      reason: text(500),
    })
    .partial(),
  output: z.object({ id }),
})
const named = z.object({ id, key: z.string(), title: z.string() })
export const readBuild = contract({
  name: 'readBuild',
  method: 'GET',
  path: '/projects/:key/builds/:id',
  permission: 'read',
  summary: 'A build: what it touches and repairs, what it makes stale, and the items that would answer it',
  params: idParams('build'),
  query: none,
  body: none,
  output: z.object({
    id,
    name: z.string(),
    release: z.string(),
    releaseId: id,
    state: z.enum(buildStates),
    offeredAt: z.number(),
    notes: z.string(),
    touches: z.object({ components: z.array(z.string()), requirements: z.array(named) }).nullable(),
    repairs: z.array(named.extend({ state: z.string() })),
    /** The smoke suite, and which of its cases have passed on the build. */
    smoke: z.object({ suite: named, passed: z.number(), of: z.number(), missing: z.array(named) }).nullable(),
    effect: z.object({
      /** Results that are current but for this build. */
      stale: z.number(),
      /** Results that stay current because the build says it does not touch them. */
      spared: z.number(),
      minutes: z.number(),
      slots: z.array(z.object({ case: id, environment: id })),
    }),
  }),
})
export type BuildSheet = z.infer<typeof readBuild.output>
export const readPaths = contract({
  name: 'readPaths',
  method: 'GET',
  path: '/projects/:key/paths',
  permission: 'read',
  summary: 'The table that says which component a changed path belongs to, and the smoke suite',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({ paths: z.string(), smokeSuite: named.nullable() }),
})
export const setPaths = contract({
  name: 'setPaths',
  method: 'PUT',
  path: '/projects/:key/paths',
  permission: 'setUp',
  summary: 'Change the table of paths, a line each, or the smoke suite',
  params: projectParams,
  query: none,
  body: z.object({ paths: text(20_000), smokeSuite: idOf('suite').nullable() }).partial(),
  output: done,
})
export const tellTouched = contract({
  name: 'tellTouched',
  method: 'POST',
  path: '/projects/:key/paths/touched',
  permission: 'read',
  summary: 'Components that changed paths belong to, by the table; paths nobody knows are named',
  params: projectParams,
  query: none,
  body: z.object({ paths: text(500_000) }),
  output: z.object({ components: z.array(z.string()), unknown: z.array(z.string()), unknownTotal: z.number() }),
})
