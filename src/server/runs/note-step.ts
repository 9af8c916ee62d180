import type { clockAttempt as clockContract, commentStep as commentContract } from '#core/runs/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findAttempt, loadAttempt, saveAttempt, saveStepComment } from '#db/runs/attempts.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function commentStep(
  context: Context,
  { params, body }: Input<typeof commentContract>,
): Answer<typeof commentContract> {
  const stored = findAttempt(context.tx, context.project.id, params.id)
  if (!stored) throw new Refusal('not-found', 'There is no such attempt in this project.')
  const attempt = loadAttempt(context.tx, stored)
  if (!attempt.steps.includes(params.step) || params.row > attempt.rows)
    throw new Refusal('invalid', 'That step is not part of the version being executed.')
  const { text } = body
  saveStepComment(context.tx, {
    attemptId: stored.id,
    row: params.row,
    stepId: params.step,
    comment: text,
    at: context.now,
  })
  context.change({
    kind: 'attempt',
    id: stored.id,
    ref: String(stored.itemId ?? stored.id),
    action: 'commented',
    verdict: true,
  })
  return { storedAt: context.now, text }
}

export function clockAttempt(
  { tx, project }: Context,
  { params, body }: Input<typeof clockContract>,
): Answer<typeof clockContract> {
  const stored = findAttempt(tx, project.id, params.id)
  if (!stored) throw new Refusal('not-found', 'There is no such attempt in this project.')
  const seconds = stored.seconds + body.seconds
  saveAttempt(tx, stored.id, { seconds })
  return { seconds }
}
