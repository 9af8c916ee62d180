import type {
  recordStep as stepContract,
  recordWhole as wholeContract,
  undoVerdict as undoContract,
} from '#core/runs/desk-contract.ts'
import { apply, type Attempt, invert, liftWhole, markStep, markWhole, type Outcome } from '#core/runs/attempt.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type Said, saidOf, type Verdict, verdict as verdictShape } from '#core/lib/verdict.ts'
import { verdictKinds } from '#db/projects/verdict-kinds.ts'
import { policyById } from '#db/projects/policies.ts'
import { releaseHeld } from '#db/reuse/data-tables.ts'
import { type Arrival, counts, eventTime } from '#core/runs/event-time.ts'
import { keyOf } from '#core/lib/key.ts'
import { caseById } from '#db/cases/cases.ts'
import { leadsOf } from '#db/people/members.ts'
import { tell } from '#db/talk/inbox.ts'
import { runOfItem, type RunStored } from '#db/runs/runs.ts'
import type { Tx } from '#db/open.ts'
import { addEvent, findEvent, lastUndoable, oddEvents } from '#db/runs/verdict-events.ts'
import { type AttemptStored, findAttempt, loadAttempt, saveAttempt, saveChange, stateOf } from '#db/runs/attempts.ts'
import { itemById } from '#db/runs/items.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { attemptAnswer } from './desk-of.ts'
import { refreshItem, refreshStanding } from './refresh-standing.ts'
import { tellFreed } from './keep-waits.ts'
import { arrivalAt, refuseOthers } from './under-policy.ts'

interface Sent {
  readonly client: string
  readonly sequence: number
  readonly at: number
  readonly sent?: number | undefined
  /** It was asked before whether it may be recorded: what somebody else executed elsewhere is brought in for them. */
  readonly forOther?: true
}

/** A step's verdict: the event, the attempt, its item and the standing result in one transaction. */
export function recordStep(
  context: Context,
  { params, body }: Input<typeof stepContract>,
): Answer<typeof stepContract> {
  const stored = attemptOf(context, params.id)
  const { after, became } =
    alreadyStored(context, stored, body) ??
    record(context, stored, body, (attempt, at) =>
      markStep(attempt, { row: params.row, step: params.step, ...saidHere(context, { ...body, at }, 'forSteps') }),
    )
  return {
    verdict: verdictShape.parse(after.verdict),
    final: after.final,
    itemVerdict: itemVerdict(context, after),
    storedAt: context.now,
    ...became,
  }
}

export function recordWhole(
  context: Context,
  { params, body }: Input<typeof wholeContract>,
): Answer<typeof wholeContract> {
  const stored = attemptOf(context, params.id)
  return answerOf(
    context,
    alreadyStored(context, stored, body) ??
      record(context, stored, body, (attempt, at) =>
        body.verdict === null
          ? liftWhole(attempt)
          : markWhole(
              attempt,
              saidHere(context, { verdict: body.verdict, word: body.word, at }, 'forItems'),
              body.reason,
            ),
      ),
  )
}

/** Takes the person's newest verdict back by an event of its own: nothing recorded is lost. */
export function undoVerdict(
  context: Context,
  { params, body }: Input<typeof undoContract>,
): Answer<typeof undoContract> {
  const stored = attemptOf(context, params.id)
  const before = alreadyStored(context, stored, body)
  if (before) return answerOf(context, before)
  const last = lastUndoable(context.tx, stored.id, context.person.id)
  if (!last) throw new Refusal('refused', 'There is no verdict of yours to take back in this attempt.')
  return answerOf(
    context,
    record(context, stored, { ...body, undoes: last.id }, (attempt) => apply(attempt, invert(last.change))),
  )
}

/**
 * A verdict in the project's words, as they were when it was given; a word it does not have is refused, since nobody could say
 * what it counts as.
 */
function saidHere(
  { tx, project }: Context,
  of: { readonly verdict: Verdict; readonly word: string | null; readonly at: number },
  about: 'forSteps' | 'forItems',
): Said {
  const kinds = of.word === null ? [] : verdictKinds(tx, project.id)
  const said = saidOf(kinds, of, about)
  if (said) return said
  const known = kinds.find(({ word }) => word.toLowerCase() === of.word?.toLowerCase())
  if (known)
    throw new Refusal(
      'invalid',
      known.retiredAt === null
        ? `“${known.word}” is not said of ${about === 'forSteps' ? 'steps' : 'items'} in this project; nothing was stored.`
        : `“${known.word}” is not in use any more in this project; give another verdict. Nothing was stored.`,
      { fields: [{ field: 'word', message: 'is not in use here' }] },
    )
  throw new Refusal('invalid', `“${of.word ?? ''}” is not a verdict of this project; nothing was stored.`, {
    fields: [{ field: 'word', message: 'is not a verdict of this project' }],
  })
}

function attemptOf({ tx, project }: Context, id: number): AttemptStored {
  const stored = findAttempt(tx, project.id, id)
  if (!stored) throw new Refusal('not-found', 'There is no such attempt in this project.')
  return stored
}

/** What an event has made of its attempt, and what is told of it. */
interface Recorded {
  readonly after: AttemptStored
  readonly became: { readonly counts: boolean; readonly said: string }
}

/** A client that was not answered sends again; the second sending changes nothing. */
function alreadyStored({ tx }: Context, stored: AttemptStored, sent: Sent): Recorded | undefined {
  const before = findEvent(tx, sent.client, sent.sequence)
  if (before && before.attemptId !== stored.id)
    throw new Refusal('key-reused', 'This event number of yours was used for another attempt; nothing was stored.')
  return before && { after: stored, became: becameOf(before, runOf(tx, stored)) }
}

function record(
  context: Context,
  stored: AttemptStored,
  sent: Sent & { undoes?: number },
  /** With when it was given. */
  act: (attempt: Attempt, at: number) => Outcome,
): Recorded {
  const { tx, now } = context
  const item = stored.itemId === null ? undefined : itemById(tx, stored.itemId)
  if (item && !sent.forOther) refuseOthers(context, policyById(tx, stored.policyId), item, stored.personId)
  const { at, doubtful } = eventTime(sent, { startedAt: stored.startedAt, now })
  const outcome = act(loadAttempt(tx, stored), at)
  if (!outcome.ok) throw new Refusal('refused', outcome.sentence)
  const run = runOf(tx, stored)
  const arrival = arrivalAt(context, run, at)
  addEvent(tx, {
    attemptId: stored.id,
    clientId: sent.client,
    sequence: sent.sequence,
    personId: context.person.id,
    change: outcome.change,
    at,
    claimedAt: sent.at,
    doubtful,
    arrival,
    receivedAt: now,
    ...(sent.undoes !== undefined && { undoes: sent.undoes }),
  })
  const became = becameOf({ arrival, doubtful }, run)
  if (counts(arrival)) saveChange(tx, stored.id, outcome.change, at)
  else tellTeam(context, stored, run)
  const after = counts(arrival) ? settle(context, stored, outcome.attempt, at) : stored
  context.change({
    kind: 'attempt',
    id: stored.id,
    ref: String(stored.itemId ?? stored.id),
    action: actOf[arrival],
    verdict: true,
  })
  return { after, became }
}

const actOf = {
  'in time': 'recorded',
  late: 'recorded',
  amended: 'amended',
  'after the close': 'recorded after the close',
} as const satisfies Record<Arrival, string>

const runOf = (tx: Tx, stored: AttemptStored): RunStored | undefined =>
  stored.itemId === null ? undefined : runOfItem(tx, stored.itemId)

/** In words for whoever gave the verdict; nothing is said of what goes as expected. */
function becameOf(
  { arrival, doubtful }: { arrival: Arrival; doubtful: boolean },
  run: RunStored | undefined,
): Recorded['became'] {
  const key = run ? keyOf('run', run.number) : 'The run'
  const said = [
    ...(arrival === 'after the close'
      ? [
          `${key} was closed before this verdict was given: it is kept and does not count. A lead can open the run again.`,
        ]
      : []),
    ...(arrival === 'amended' ? [`${key} is closed; this amends its result, and counts.`] : []),
    ...(arrival === 'late' ? [`${key} has been closed since; this verdict was given before, and counts.`] : []),
    ...(doubtful ? ['The time this browser tells cannot be right, so the verdict bears the time it arrived.'] : []),
  ]
  return { counts: counts(arrival), said: said.join(' ') }
}

/** The people who closed the run are told once of each attempt that goes on after it. */
function tellTeam(context: Context, stored: AttemptStored, run: RunStored | undefined): void {
  if (!run || oddEvents(context.tx, stored.id).afterClose > 1) return
  const { tx, project, person, now } = context
  for (const lead of leadsOf(tx, project.id))
    tell(tx, {
      projectId: project.id,
      personId: lead,
      kind: 'late',
      ref: keyOf('run', run.number),
      text: 'A verdict was given after the close: it is kept and does not count.',
      fromId: person.id,
      at: now,
    })
}

/** What the marks make of the attempt, its item and what stands at its place. */
function settle(context: Context, before: AttemptStored, attempt: Attempt, at: number): AttemptStored {
  const { tx } = context
  const state = stateOf(attempt, at)
  saveAttempt(tx, before.id, state)
  // What the attempt had checked out is free again for the next tester.
  if (state.final) releaseHeld(tx, before.id)
  if (before.itemId !== null) settleItem(context, before.itemId)
  if (state.final || before.final) refreshStanding(tx, before)
  return { ...before, ...state }
}

/** The item of an attempt follows it; what waited for it to pass can go on. */
function settleItem(context: Context, id: number): void {
  const { tx } = context
  const before = itemById(tx, id)
  refreshItem(tx, id)
  if (before?.verdict === 'Passed' || itemById(tx, id)?.verdict !== 'Passed') return
  const own = before && caseById(tx, before.caseId)
  if (own) tellFreed(context, { item: id }, `${keyOf('case', own.number)} has passed`)
}

/** The item's own verdict is that of its newest begun attempt, which may be another one. */
const itemVerdict = ({ tx }: Context, { itemId }: AttemptStored): Verdict | null =>
  itemId === null ? null : verdictShape.parse(itemById(tx, itemId)?.verdict)

const answerOf = (context: Context, { after, became }: Recorded): Answer<typeof wholeContract> => ({
  attempt: attemptAnswer(context.tx, context.project, after, context.person.id),
  storedAt: context.now,
  itemVerdict: itemVerdict(context, after),
  ...became,
})
