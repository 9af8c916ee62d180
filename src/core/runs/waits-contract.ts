import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { mostAtOnce, stopped } from '#core/lib/many.ts'
import { idOf, idsOf } from '#core/lib/owned.ts'
import { line, none, refParams } from '#core/lib/shapes.ts'

const waits = '/projects/:key/runs/:ref/waits'

/** What one item waits for, by what somebody said. */
const heldItem = z.object({
  item: idOf('item'),
  defects: z.array(idOf('defect')).max(50),
  items: z.array(idOf('item')).max(50),
})

export const waitFor = contract({
  name: 'waitFor',
  method: 'POST',
  path: waits,
  permission: 'execute',
  summary: 'Items of a run wait for a defect, or for another item of it, or for nothing that was said any more',
  params: refParams('run'),
  query: none,
  body: z.object({
    ids: idsOf('item', mostAtOnce),
    /** The key of a defect, or of a case: its item in the same environment, else the only one. `null`: for nothing. */
    for: line(20).nullable(),
  }),
  /** `undo`: what was so before, for `holdItems`. */
  output: z.object({ changed: z.number(), undo: z.array(heldItem), stopped }),
})
export const holdItems = contract({
  name: 'holdItems',
  method: 'PUT',
  path: waits,
  permission: 'execute',
  summary: 'What items of a run wait for, each as it is told here',
  params: refParams('run'),
  query: none,
  body: z.object({ of: z.array(heldItem).min(1).max(mostAtOnce) }),
  output: z.object({ changed: z.number() }),
})
