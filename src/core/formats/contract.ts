import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { none, projectParams } from '#core/lib/shapes.ts'

export const importProblem = z.object({ at: z.string(), message: z.string() })
export const importAnswer = z.object({
  what: z.enum(['requirements', 'cases']), columns: z.array(z.object({ header: z.string(), field: z.string().nullable() })), encoding: z.string(), separator: z.string(),
  requirements: z.number(), cases: z.number(), steps: z.number(), problems: z.array(importProblem), preview: z.array(z.unknown()), stored: z.boolean(),
})
export type ImportAnswer = z.infer<typeof importAnswer>
export const importFile = contract({
  name: 'importFile', method: 'POST', path: '/projects/:key/imports', permission: 'tester', summary: 'Import a CSV (the body), or with `dry=yes` say what it would make; all or nothing', params: projectParams,
  query: z.object({ what: z.enum(['requirements', 'cases']).optional(), dry: z.enum(['yes', 'no']).default('yes'), release: z.coerce.number().int().optional() }), body: z.unknown(), output: importAnswer, raw: true,
})
export const health = contract({ name: 'health', method: 'GET', path: '/healthz', permission: 'open', summary: 'Is the server up', params: none, query: none, body: none, output: z.object({ ok: z.literal(true), version: z.string() }) })
