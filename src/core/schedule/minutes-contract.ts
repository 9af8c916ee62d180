import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { id, projectParams, none } from '#core/lib/shapes.ts'

const minutesRow = z.object({
  id,
  key: z.string(),
  title: z.string(),
  component: z.string(),
  given: z.number().nullable(),
  learned: z.number(),
  low: z.number(),
  high: z.number(),
  n: z.number(),
  /** So far that half of its attempts lie elsewhere. */
  far: z.boolean(),
})
export type MinutesRow = z.infer<typeof minutesRow>
export const listMinutes = contract({
  name: 'listMinutes',
  method: 'GET',
  path: '/projects/:key/minutes',
  permission: 'read',
  summary: 'Given minutes of cases against what their attempts taught, those furthest off first',
  params: projectParams,
  query: z.object({
    /** `far`: only those that should be changed. */
    show: z.enum(['far', 'all']).default('far'),
    cursor: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(500).default(200),
  }),
  body: none,
  output: z.object({
    rows: z.array(minutesRow),
    total: z.number(),
    far: z.number(),
    next: z.number().nullable(),
    /** The project's own regression; `null` while too little was executed. */
    model: z
      .object({
        base: z.number(),
        steps: z.number(),
        rows: z.number(),
        spread: z.number(),
        n: z.number(),
        at: z.number(),
      })
      .nullable(),
  }),
})

export const spentBy = ['environment', 'suite', 'component', 'me'] as const
export type SpentBy = (typeof spentBy)[number]
export const readSpent = contract({
  name: 'readSpent',
  method: 'GET',
  path: '/projects/:key/minutes/spent',
  permission: 'read',
  summary: 'Minutes planned against minutes spent, by environment, suite or component; of single people only one’s own',
  params: projectParams,
  query: z.object({ by: z.enum(spentBy), days: z.coerce.number().int().min(1).max(730).default(90) }),
  body: none,
  output: z.object({
    rows: z.array(z.object({ name: z.string(), attempts: z.number(), planned: z.number(), spent: z.number() })),
  }),
})
