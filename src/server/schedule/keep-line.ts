import { keyOf } from '#core/lib/key.ts'
import { sumOf } from '#core/lib/figures.ts'
import type { drawRunLine as drawContract, holdAtLine as holdContract } from '#core/schedule/contract.ts'
import { heldSides } from '#core/schedule/held.ts'
import { heldItems, holdItems, setLine } from '#db/schedule/places.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Way } from '#core/schedule/what-if-contract.ts'
import type { Tx } from '#db/open.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { runGoingOn } from './team-days.ts'

type Sides = Way['sides']

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
  const run = runGoingOn(context.tx, context.project, params.ref)
  const before = putSides(context.tx, run.id, body.sides)
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'held at the line',
    detail: { items: [null, sumOf(before, ({ ids }) => ids.length)] },
  })
  return { before }
}

/** Puts items of a run on their sides; answers on which they were, to be put back. */
export function putSides(tx: Tx, runId: number, sides: Sides): Sides {
  const ids = sides.flatMap((each) => each.ids)
  const before = heldItems(tx, runId, ids)
  if (before.length < new Set(ids).size)
    throw new Refusal('invalid', 'Some of these are no items of this run any more; nothing was changed.')
  for (const each of sides) holdItems(tx, each.ids, each.side)
  return [...heldSides, null]
    .map((side) => ({ side, ids: before.filter((each) => each.side === side).map(({ id }) => id) }))
    .filter((each) => each.ids.length > 0)
}
