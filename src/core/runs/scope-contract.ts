import { z } from 'zod'
import { idOf } from '#core/lib/owned.ts'
import { contract } from '#core/lib/contract.ts'
import { id, instant, none, refParams } from '#core/lib/shapes.ts'

const place = z.object({ case: id, environment: id, key: z.string(), title: z.string(), place: z.string() })
export const readRunScope = contract({
  name: 'readRunScope',
  method: 'GET',
  path: '/projects/:key/runs/:ref/scope',
  permission: 'read',
  summary: 'What the sources of a run gained and lost since it was opened, and what was taken out of it, with why',
  params: refParams('run'),
  query: none,
  body: none,
  output: z.object({
    /** In its sources by now, and not in the run; as `POST …/items` takes them. */
    gained: z.array(place),
    /** In the run by a source that does not hold it any more. */
    lost: z.array(place.extend({ item: id, begun: z.boolean() })),
    out: z.array(place.extend({ item: id, reason: z.string(), at: instant })),
    /** How many items it has. */
    items: z.number(),
  }),
})

export const placeItems = contract({
  name: 'placeItems',
  method: 'PUT',
  path: '/projects/:key/runs/:ref/items/order',
  permission: 'leadRuns',
  summary:
    'Put items of a run into an order, which is that of the queue; those not named come after them as they stood',
  params: refParams('run'),
  query: none,
  body: z.object({ order: z.array(idOf('item')).min(1, 'names no item').max(20_000) }),
  output: z.object({ moved: z.number() }),
})
