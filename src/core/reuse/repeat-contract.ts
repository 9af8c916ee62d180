import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { id, none, projectParams, refParams } from '#core/lib/shapes.ts'

const place = z.object({ case: z.string(), title: z.string(), at: z.number() })
export const findRepeats = contract({
  name: 'findRepeats',
  method: 'GET',
  path: '/projects/:key/cases/repeats',
  permission: 'read',
  summary:
    'Steps that several cases repeat word for word, the most worth first; with `ref`, only runs this case has part in',
  params: projectParams,
  query: z.object({ ref: z.string().max(20).optional(), limit: z.coerce.number().int().min(1).max(100).default(20) }),
  body: none,
  output: z.object({
    rows: z.array(
      z.object({
        length: z.number(),
        saved: z.number(),
        steps: z.array(z.object({ action: z.string(), expected: z.string(), data: z.string() })),
        places: z.array(place),
      }),
    ),
    total: z.number(),
  }),
})
export const findSame = contract({
  name: 'findSame',
  method: 'GET',
  path: '/projects/:key/cases/:ref/same',
  permission: 'read',
  summary: 'Other cases that say the same steps as this one from a step on',
  params: refParams('case'),
  query: z.object({ at: z.coerce.number().int().min(0), length: z.coerce.number().int().min(1).max(200) }),
  body: none,
  output: z.object({ places: z.array(place) }),
})
export const findAlike = contract({
  name: 'findAlike',
  method: 'GET',
  path: '/projects/:key/cases/alike',
  permission: 'read',
  summary: 'Groups of cases that say nearly the same',
  params: projectParams,
  query: z.object({
    atLeast: z.coerce.number().min(0.3).max(1).default(0.6),
    limit: z.coerce.number().int().min(1).max(100).default(30),
  }),
  body: none,
  output: z.object({
    rows: z.array(
      z.object({
        likeness: z.number(),
        cases: z.array(
          z.object({
            id,
            key: z.string(),
            title: z.string(),
            steps: z.number(),
            links: z.number(),
            attempts: z.number(),
          }),
        ),
        more: z.number(),
      }),
    ),
    total: z.number(),
    whole: z.boolean(),
  }),
})
