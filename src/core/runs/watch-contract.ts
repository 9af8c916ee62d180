import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { id, instant, none, refParams } from '#core/lib/shapes.ts'

export const watchRun = contract({
  name: 'watchRun',
  method: 'GET',
  path: '/projects/:key/runs/:ref/watch',
  permission: 'read',
  summary: 'Who is on what in a run now, what should be done by today, and what time it took against what was planned',
  params: refParams('run'),
  query: none,
  body: none,
  output: z.object({
    /** Attempts that go on, the longest quiet one first. */
    now: z.array(
      z.object({
        item: id,
        case: z.string(),
        title: z.string(),
        environment: z.string(),
        person: z.string().nullable(),
        since: instant,
        /** When something was last said in it. */
        last: instant,
        stalled: z.boolean(),
      }),
    ),
    nowCount: z.number(),
    /** Items due by today, and those of them with a result. */
    due: z.object({ of: z.number(), done: z.number() }),
    /** Of items with a result: minutes they were planned to take, and took; of these, shared out over many. */
    minutes: z.object({ planned: z.number(), spent: z.number(), shared: z.number(), timed: z.number() }),
  }),
})
