import { keyOf } from '#core/lib/key.ts'
import { hasEnded } from '#core/runs/state.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { addItems as addContract, dropItems as dropContract } from '#core/runs/compose-contract.ts'
import { casesThere } from '#db/cases/cases.ts'
import type { placeItems as placeContract } from '#core/runs/scope-contract.ts'
import { addItems, bringItemsBack, dropItemsOf, lastPlace, placeInOrder } from '#db/runs/item-scope.ts'
import { findRun, type RunStored } from '#db/runs/runs.ts'
import { type Context, found } from '#server/http/context.ts'
import { inSets } from '#server/http/going.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { asItem, once } from './create-run.ts'

/** A run whose items may still be changed. */
function openRun({ tx, project }: Pick<Context, 'tx' | 'project'>, number: number): RunStored {
  const run = found(findRun(tx, project.id, number), keyOf('run', number))
  if (hasEnded(run.state))
    throw new Refusal(
      'refused',
      `${keyOf('run', number)} is ${run.state.toLowerCase()}; its items stay as they are. Open it again to change them.`,
    )
  return run
}

/** Puts items into a run; those that are in it by now stay as they are. */
export async function addToRun(
  context: OpenContext,
  { params, body }: Input<typeof addContract>,
): Promise<Answer<typeof addContract>> {
  const { tx, project } = context
  const run = openRun(context, params.ref)
  const asked = once(body.items)
  const live = casesThere(
    tx,
    project.id,
    asked.map((each) => each.case),
  )
  const wanted = asked.filter((each) => live.has(each.case))
  const undo: number[] = []
  await inSets(wanted, (part) => {
    context.store((inside) => {
      openRun(inside, params.ref)
      undo.push(...addItems(inside.tx, run.id, part.map(asItem), lastPlace(inside.tx, run.id)))
    })
    return true
  })
  if (undo.length > 0) context.store((inside) => tell(inside, run, 'items added', undo.length))
  return { added: undo.length, there: wanted.length - undo.length, undo }
}

export function dropItems(context: Context, { params, body }: Input<typeof dropContract>): Answer<typeof dropContract> {
  const run = openRun(context, params.ref)
  const { ids, undo, reason } = body
  const dropped = undo
    ? bringItemsBack(context.tx, run.id, ids)
    : dropItemsOf(context.tx, run.id, ids, { at: context.now, reason })
  if (dropped.changed > 0) tell(context, run, undo ? 'items brought back' : 'items dropped', dropped.changed, reason)
  return dropped
}

/** The order of the items is that of the queue. */
export function placeItems(
  context: Context,
  { params, body }: Input<typeof placeContract>,
): Answer<typeof placeContract> {
  const run = openRun(context, params.ref)
  const moved = placeInOrder(context.tx, run.id, [...new Set(body.order)])
  if (moved > 0) context.change({ kind: 'run', id: run.id, ref: keyOf('run', run.number), action: 'items placed' })
  return { moved }
}

function tell(
  context: Context,
  run: RunStored,
  action: 'items added' | 'items dropped' | 'items brought back',
  items: number,
  reason = '',
): void {
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action,
    detail: { items: [null, items], ...(reason !== '' && { reason: [null, reason] }) },
  })
}
