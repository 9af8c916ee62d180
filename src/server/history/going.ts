import type { readGoing as readContract, stopGoing as stopContract } from '#core/history/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Context } from '#server/http/context.ts'
import { goingOf } from '#server/http/going.ts'
import type { Answer, Input } from '#server/http/route.ts'

const ended = (): Refusal => new Refusal('not-found', 'Nothing of yours goes on under this name; it has ended.')

export function readGoing(context: Context, { params }: Input<typeof readContract>): Answer<typeof readContract> {
  const found = goingOf(context, params.job)
  if (!found) throw ended()
  return { done: found.done, of: found.of }
}

export function stopGoing(context: Context, { params }: Input<typeof stopContract>): Answer<typeof stopContract> {
  const found = goingOf(context, params.job)
  if (!found) throw ended()
  found.stopped = true
  return { ok: true }
}
