import type {
  clockAttempt as clockContract,
  commentStep as commentContract,
  setReason as reasonContract,
  timeAttempt as timeContract,
} from '#core/runs/note-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { verdictReasons } from '#db/projects/verdict-kinds.ts'
import { findAttempt, loadAttempt, saveAttempt, saveStepComment } from '#db/runs/attempts.ts'
import { learnMinutes } from '#server/schedule/learn-minutes.ts'
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

/** One of the project's reasons for a verdict that are in use, in the word the project has for it; `null` where none is given. */
export function reasonOf({ tx, project }: Context, verdict: string, word: string | null): string | null {
  if (word === null) return null
  const own = verdictReasons(tx, project.id).filter((each) => each.verdict === verdict)
  const known = own.find((each) => each.word.toLowerCase() === word.toLowerCase())
  if (known && known.retiredAt === null) return known.word
  throw new Refusal(
    'invalid',
    known
      ? `“${known.word}” is not in use any more as a reason for ${verdict}; nothing was stored.`
      : `“${word}” is no reason for ${verdict} in this project; nothing was stored.`,
    { fields: [{ field: 'reason', message: 'is not in use here' }] },
  )
}

export function setReason(
  context: Context,
  { params, body }: Input<typeof reasonContract>,
): Answer<typeof reasonContract> {
  const { tx, project } = context
  const stored = findAttempt(tx, project.id, params.id)
  if (!stored) throw new Refusal('not-found', 'There is no such attempt in this project.')
  const reason = body.reason === stored.reason ? stored.reason : reasonOf(context, stored.verdict, body.reason)
  saveAttempt(tx, stored.id, { reason })
  context.change({
    kind: 'attempt',
    id: stored.id,
    ref: String(stored.itemId ?? stored.id),
    action: 'commented',
    verdict: true,
  })
  return { reason }
}

export function clockAttempt(
  { tx, project }: Context,
  { params, body }: Input<typeof clockContract>,
): Answer<typeof clockContract> {
  const stored = findAttempt(tx, project.id, params.id)
  if (!stored) throw new Refusal('not-found', 'There is no such attempt in this project.')
  if (stored.timing === 'typed') return { seconds: stored.seconds }
  const seconds = stored.seconds + body.seconds
  saveAttempt(tx, stored.id, { seconds, timing: 'clock' })
  if (stored.final) learnMinutes(tx, stored)
  return { seconds }
}

export function timeAttempt(
  context: Context,
  { params, body }: Input<typeof timeContract>,
): Answer<typeof timeContract> {
  const { tx, project, person, role } = context
  const stored = findAttempt(tx, project.id, params.id)
  if (!stored) throw new Refusal('not-found', 'There is no such attempt in this project.')
  if (stored.personId !== person.id && role !== 'lead')
    throw new Refusal('not-allowed', 'How long an attempt took is said by whoever made it, or by a lead.')
  const to = { seconds: body.minutes * 60, timing: 'typed' as const }
  saveAttempt(tx, stored.id, to)
  if (stored.final) learnMinutes(tx, stored)
  context.change({
    kind: 'attempt',
    id: stored.id,
    ref: String(stored.itemId ?? stored.id),
    action: 'time said',
    detail: { seconds: [stored.seconds, to.seconds] },
    verdict: true,
  })
  return to
}
