import { keyOf } from '#core/lib/key.ts'
import type { drawRunLine as drawContract, holdAtLine as holdContract } from '#core/schedule/contract.ts'
import { heldSides } from '#core/schedule/held.ts'
import { heldItems, holdItems, setLine } from '#db/schedule/places.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { runGoingOn } from './team-days.ts'

export function drawRunLine(
  context: Context,
  { params, body }: Input<typeof drawContract>,
): Answer<typeof drawContract> {
  const run = runGoingOn(context.tx, context.project, params.ref)
  setLine(context.tx, run.id, body.minutes)
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'line drawn',
    detail: { minutes: [run.lineMinutes, body.minutes] },
  })
  return { before: run.lineMinutes }
}

export function holdAtLine(
  context: Context,
  { params, body }: Input<typeof holdContract>,
): Answer<typeof holdContract> {
  const { tx } = context
  const run = runGoingOn(tx, context.project, params.ref)
  const before = body.sides.flatMap(({ ids }) => heldItems(tx, run.id, ids))
  const own = new Set(before.map(({ id }) => id))
  if (body.sides.some(({ ids }) => ids.some((id) => !own.has(id))))
    throw new Refusal('invalid', 'Some of these are no items of this run any more; nothing was changed.')
  for (const { ids, side } of body.sides) holdItems(tx, ids, side)
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'held at the line',
    detail: { items: [null, own.size] },
  })
  return {
    before: [...heldSides, null]
      .map((side) => ({ side, ids: before.filter((each) => each.side === side).map(({ id }) => id) }))
      .filter(({ ids }) => ids.length > 0),
  }
}
