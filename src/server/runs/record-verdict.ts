import type {
  recordStep as stepContract,
  recordWhole as wholeContract,
  undoVerdict as undoContract,
} from '#core/runs/contract.ts'
import {
  apply,
  type Attempt,
  attemptIsFinal,
  attemptVerdict,
  invert,
  liftWhole,
  markStep,
  markWhole,
  type Outcome,
} from '#core/runs/attempt.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type Said, saidOf, type Verdict, verdict as verdictShape } from '#core/lib/verdict.ts'
import { verdictKinds } from '#db/projects/verdict-kinds.ts'
import { releaseHeld } from '#db/reuse/data-tables.ts'
import { addEvent, findEvent, lastUndoable } from '#db/runs/verdict-events.ts'
import { type AttemptStored, findAttempt, loadAttempt, saveAttempt, saveChange } from '#db/runs/attempts.ts'
import { saveItem } from '#db/runs/items.ts'
import { type Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { attemptAnswer } from './desk-of.ts'
import { refreshStanding } from './refresh-standing.ts'

interface Sent {
  readonly client: string
  readonly sequence: number
  readonly at: number
}

/** A step's verdict: the event, the attempt, its item and the standing result in one transaction. */
export function recordStep(
  context: Context,
  { params, body }: Input<typeof stepContract>,
): Answer<typeof stepContract> {
  const stored = attemptOf(context, params.id)
  const after = alreadyStored(context, stored, body)
    ? stored
    : record(context, stored, body, (attempt) =>
        markStep(attempt, { row: params.row, step: params.step, ...saidHere(context, body) }),
      )
  return {
    verdict: verdictShape.parse(after.verdict),
    final: after.final,
    itemVerdict: after.itemId === null ? null : verdictShape.parse(after.verdict),
    storedAt: context.now,
  }
}

export function recordWhole(
  context: Context,
  { params, body }: Input<typeof wholeContract>,
): Answer<typeof wholeContract> {
  const stored = attemptOf(context, params.id)
  const after = alreadyStored(context, stored, body)
    ? stored
    : record(context, stored, body, (attempt) =>
        body.verdict === null ? liftWhole(attempt) : markWhole(attempt, body.verdict, body.reason),
      )
  return answerOf(context, after)
}

/** Takes the person's newest verdict back by an event of its own: nothing recorded is lost. */
export function undoVerdict(
  context: Context,
  { params, body }: Input<typeof undoContract>,
): Answer<typeof undoContract> {
  const stored = attemptOf(context, params.id)
  if (alreadyStored(context, stored, body)) return answerOf(context, stored)
  const last = lastUndoable(context.tx, stored.id, context.person.id)
  if (!last) throw new Refusal('refused', 'There is no verdict of yours to take back in this attempt.')
  return answerOf(
    context,
    record(context, stored, { ...body, undoes: last.id }, (attempt) => apply(attempt, invert(last.change))),
  )
}

/** A step's verdict in the project's words; a word it does not have is refused, since nobody could say what it counts as. */
function saidHere({ tx, project }: Context, body: Input<typeof stepContract>['body']): Said {
  const said = saidOf(verdictKinds(tx, project.id), body, 'forSteps')
  if (!said)
    throw new Refusal('invalid', `“${body.word ?? ''}” is not a verdict of this project; nothing was stored.`, {
      fields: [{ field: 'word', message: 'is not a verdict of this project' }],
    })
  return said
}

function attemptOf({ tx, project }: Context, id: number): AttemptStored {
  const stored = findAttempt(tx, project.id, id)
  if (!stored) throw new Refusal('not-found', 'There is no such attempt in this project.')
  return stored
}

/** A client that was not answered sends again; the second sending changes nothing. */
function alreadyStored({ tx }: Context, stored: AttemptStored, sent: Sent): boolean {
  const before = findEvent(tx, sent.client, sent.sequence)
  if (before && before.attemptId !== stored.id)
    throw new Refusal('key-reused', 'This event number of yours was used for another attempt; nothing was stored.')
  return before !== undefined
}

function record(
  context: Context,
  stored: AttemptStored,
  sent: Sent & { undoes?: number },
  act: (attempt: Attempt) => Outcome,
): AttemptStored {
  const { tx } = context
  const outcome = act(loadAttempt(tx, stored))
  if (!outcome.ok) throw new Refusal('refused', outcome.sentence)
  saveChange(tx, stored.id, outcome.change, sent.at)
  addEvent(tx, {
    attemptId: stored.id,
    clientId: sent.client,
    sequence: sent.sequence,
    personId: context.person.id,
    change: outcome.change,
    at: sent.at,
    receivedAt: context.now,
    ...(sent.undoes !== undefined && { undoes: sent.undoes }),
  })
  const after = settle(context, stored, outcome.attempt, sent.at)
  context.change({
    kind: 'attempt',
    id: stored.id,
    ref: String(stored.itemId ?? stored.id),
    action: 'recorded',
    verdict: true,
  })
  return after
}

/** What the marks make of the attempt, its item and what stands at its place. */
function settle({ tx }: Context, before: AttemptStored, attempt: Attempt, at: number): AttemptStored {
  const verdict: Verdict = attemptVerdict(attempt)
  const final = attemptIsFinal(attempt)
  const after: AttemptStored = {
    ...before,
    verdict,
    final,
    wholeVerdict: attempt.whole?.verdict ?? null,
    overrideReason: attempt.whole?.override ?? null,
    finishedAt: final ? at : null,
  }
  saveAttempt(tx, before.id, {
    verdict,
    final,
    wholeVerdict: after.wholeVerdict,
    overrideReason: after.overrideReason,
    finishedAt: after.finishedAt,
  })
  // What the attempt had checked out is free again for the next tester.
  if (final) releaseHeld(tx, before.id)
  if (before.itemId !== null) saveItem(tx, before.itemId, { verdict })
  if (final || before.final) refreshStanding(tx, before)
  return after
}

const answerOf = (context: Context, after: AttemptStored): Answer<typeof wholeContract> => ({
  attempt: attemptAnswer(context.tx, context.project, after, context.person.id),
  storedAt: context.now,
  itemVerdict: after.itemId === null ? null : verdictShape.parse(after.verdict),
})
