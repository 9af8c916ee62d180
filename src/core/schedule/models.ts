import { z } from 'zod'
import type { Notice } from '#core/techniques/models.ts'
import { exactly, name, recordOf } from '#core/techniques/models.ts'

const most = { items: 100_000, covers: 10_000, things: 200_000 }
const minutes = z.number().finite().min(0, 'minutes are 0 or more').max(1e9)

export const selectModel = exactly({
  budget: minutes,
  items: z.array(exactly({ key: name, minutes, covers: z.array(name).max(most.covers).default([]) })).max(most.items),
  worth: recordOf(name, z.number().finite().min(0, 'worth is 0 or more'), most.things).prefault({}),
}).superRefine(({ items }, context) => {
  const seen = new Set<string>()
  items.forEach(({ key }, at) => {
    if (seen.has(key))
      context.addIssue({ code: 'custom', path: ['items', at, 'key'], message: `“${key}” stands twice` })
    seen.add(key)
  })
})
export type SelectModel = z.infer<typeof selectModel>

/** What is covered and has no worth given: it counts as 0. */
export const unknownThings = ({ items, worth }: SelectModel): Notice[] =>
  items.flatMap(({ covers }, at) =>
    covers.flatMap((thing, of) =>
      Object.hasOwn(worth, thing)
        ? []
        : [{ at: `items[${at}].covers[${of}]`, message: `“${thing}” has no worth given; it is worth 0` }],
    ),
  )
