import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { id, idParams, instant, line, none, orUndo, projectParams } from '#core/lib/shapes.ts'

const installedShape = z.object({
  id,
  environment: z.object({ id, name: z.string() }),
  /** `null`: none is known from then on. */
  build: z.object({ id, name: z.string() }).nullable(),
  fromAt: instant,
  untilAt: instant.nullable(),
  note: z.string(),
  by: z.string().nullable(),
  saidAt: instant,
  /** Attempts begun there meanwhile. */
  attempts: z.number(),
})
export type InstalledRow = z.infer<typeof installedShape>
/** Attempts that go to another build; the first of `total`. */
const moves = z.object({
  total: z.number(),
  /** Of them in runs that are closed. */
  inClosed: z.number(),
  rows: z.array(
    z.object({
      case: z.string(),
      title: z.string(),
      run: z.string().nullable(),
      at: instant,
      verdict: z.string(),
      from: z.string(),
      to: z.string(),
    }),
  ),
  /** Why it ended before all of them had gone. */
  stopped: z.string().nullable(),
})
export type InstalledMoves = z.infer<typeof moves>

const all = '/projects/:key/installations'
const one = { path: `${all}/:id`, params: idParams('installation') } as const
/** `told`: nothing is stored; it is told what would go where. */
const only = z.enum(['told']).optional()
export const listInstalled = contract({
  name: 'listInstalled',
  method: 'GET',
  path: all,
  permission: 'read',
  summary: 'Which build stands in which environment since when, the newest first',
  params: projectParams,
  query: z.object({
    environment: z.coerce.number().int().positive().optional(),
    /** Those that begin before an instant. */
    before: z.coerce.number().int().optional(),
    limit: z.coerce.number().int().min(1).max(200).default(50),
  }),
  body: none,
  output: z.object({ rows: z.array(installedShape), next: z.number().nullable() }),
})
/** An object by its id, or by its name as a pipeline knows it. */
const named = (of: 'environment' | 'build') => z.union([idOf(of), line(60)])
export const sayInstalled = contract({
  name: 'sayInstalled',
  method: 'POST',
  path: all,
  permission: 'execute',
  takesResults: true,
  summary: 'Say which build stands in an environment, from now on or since an instant; attempts made since go to it',
  params: projectParams,
  query: none,
  body: z.object({
    environment: named('environment'),
    build: named('build').nullable(),
    fromAt: instant.optional(),
    note: z.string().trim().max(200).default(''),
    only,
  }),
  output: z.object({ id: id.nullable(), moves }),
})
export const correctInstalled = contract({
  ...one,
  name: 'correctInstalled',
  method: 'PATCH',
  permission: 'execute',
  summary: 'Correct which build stood there, or since when; the attempts of that time go with it',
  query: none,
  body: z.object({
    build: idOf('build').nullable().optional(),
    fromAt: instant.optional(),
    note: z.string().trim().max(200).optional(),
    only,
  }),
  output: z.object({ moves }),
})
export const takeBackInstalled = contract({
  ...one,
  name: 'takeBackInstalled',
  method: 'DELETE',
  permission: 'execute',
  summary: 'Take back what was said of an environment, or say it again; the attempts of that time go with it',
  query: orUndo.extend({ only }),
  body: none,
  output: z.object({ moves }),
})
