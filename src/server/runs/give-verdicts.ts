import { randomUUID } from 'node:crypto'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { giveVerdicts as giveContract, takeVerdictsBack as backContract } from '#core/runs/many-contract.ts'
import { findAttempt, saveAttempt } from '#db/runs/attempts.ts'
import { findItem, itemById, type ItemStored } from '#db/runs/items.ts'
import { findRun } from '#db/runs/runs.ts'
import { type Context, found, oneOfMany } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { reasonOf } from './note-step.ts'
import { recordWhole, undoVerdict } from './record-verdict.ts'
import { beginAttempt } from './start-attempt.ts'
import { policyOfRun, refuseOthers } from './under-policy.ts'

type Given = Input<typeof giveContract>['body']

/**
 * Each gets an attempt of its own with the verdict and its reason; what time it took is shared out, and nobody becomes its tester by it.
 * What cannot be given one is left as it was, and answered with why.
 */
export function giveVerdicts(
  context: Context,
  { params, body }: Input<typeof giveContract>,
): Answer<typeof giveContract> {
  const { tx, project } = context
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const policy = policyOfRun(context, run)
  const reason = reasonOf(context, body.verdict, body.because)
  const undo: number[] = []
  const left: { item: number; why: string }[] = []
  for (const id of body.ids) {
    const item = found(findItem(tx, project.id, id), 'One of the chosen items')
    if (item.runId !== run.id)
      throw new Refusal('invalid', 'One of the chosen items is of another run; nothing was changed.')
    const one = oneOfMany(context, () => {
      // Whoever leads may leave out what is somebody else's; that it was executed only they can say.
      if (body.verdict !== 'Skipped') refuseOthers(context, policy, item, null)
      return given(context, item, { ...body, because: reason })
    })
    if ('done' in one) undo.push(one.done)
    else if (run.state !== 'Open') throw one.refused
    else left.push({ item: id, why: one.refused.sentence })
  }
  return { changed: undo.length, undo, left }
}

function given(context: Context, item: ItemStored, { verdict, word, reason, because, seconds }: Given): number {
  const { tx, project, now } = context
  const attempt = beginAttempt(context, item, {})
  saveAttempt(tx, attempt, { comment: reason, reason: because, seconds, timing: 'shared' })
  recordWhole(context, {
    params: { key: project.key, id: attempt },
    query: undefined,
    body: { verdict, word, reason: null, ...eventOf(now) },
  })
  return attempt
}
/** Each as if somebody else had sent it: it happens once, in the transaction it is in. */
const eventOf = (at: number) => ({ client: `many-${randomUUID()}`, sequence: 1, at })

export function takeVerdictsBack(
  context: Context,
  { params, body }: Input<typeof backContract>,
): Answer<typeof backContract> {
  const { tx, project, now } = context
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  for (const id of body.ids) {
    const own = found(findAttempt(tx, project.id, id), 'One of the attempts')
    if (itemById(tx, own.itemId ?? 0)?.runId !== run.id)
      throw new Refusal('invalid', 'One of the attempts is of another run; nothing was changed.')
    undoVerdict(context, { params: { key: project.key, id }, query: undefined, body: eventOf(now) })
  }
  return { changed: body.ids.length }
}
