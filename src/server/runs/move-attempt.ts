import { randomUUID } from 'node:crypto'
import { keyOf, numberIn } from '#core/lib/key.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { finalVerdict } from '#core/lib/verdict.ts'
import { versionName } from '#core/cases/steps.ts'
import { swapRows } from '#core/runs/attempt.ts'
import type {
  moveAttempt as moveContract,
  moveAttemptBack as backContract,
  swapAttemptRows as swapContract,
} from '#core/runs/move-contract.ts'
import { caseById, findCase } from '#db/cases/cases.ts'
import { executedStepIds } from '#db/cases/uses.ts'
import { versionById } from '#db/cases/versions.ts'
import { attemptMarks, type AttemptStored, findAttempt, loadAttempt, saveAttempt } from '#db/runs/attempts.ts'
import { itemAt, type ItemStored } from '#db/runs/items.ts'
import {
  copyToAttempt,
  endDefectLinks,
  lastLinkEnd,
  linkAgain,
  moveDefectLinks,
  swapStoredRows,
} from '#db/runs/moving.ts'
import { findRun } from '#db/runs/runs.ts'
import { addEvent } from '#db/runs/verdict-events.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { recordWhole } from './record-verdict.ts'
import { refreshItem, refreshStanding } from './refresh-standing.ts'
import { beginAttempt } from './start-attempt.ts'

/** What was recorded at the wrong item goes to the right one. */
export function moveAttempt(
  context: Context,
  { params, body }: Input<typeof moveContract>,
): Answer<typeof moveContract> {
  const { tx, project } = context
  const before = found(findAttempt(tx, project.id, params.id), 'This attempt')
  if (before.struck !== null) throw new Refusal('refused', 'It is struck out; bring it back before it is moved.')
  const run = found(findRun(tx, project.id, numberIn('run', body.run)), body.run)
  const own = found(findCase(tx, project.id, numberIn('case', body.case)), body.case)
  const item = itemAt(tx, { runId: run.id, caseId: own.id, environmentId: body.environment })
  if (!item)
    throw new Refusal(
      'refused',
      `${keyOf('run', run.number)} has no item for ${keyOf('case', own.number)} in that environment; put one into it first. Nothing was moved.`,
    )
  if (item.id === before.itemId) throw new Refusal('refused', 'It stands there already; nothing was moved.')
  return before.caseId === own.id ? toItem(context, before, item) : toCase(context, before, item)
}

/** All of it, to another item of the same case. */
function toItem(context: Context, before: AttemptStored, item: ItemStored): Answer<typeof moveContract> {
  const { tx } = context
  saveAttempt(tx, before.id, { itemId: item.id, environmentId: item.environmentId })
  moveDefectLinks(tx, before.id, item.id)
  follow(context, [before, { ...before, environmentId: item.environmentId, itemId: item.id }])
  note(context, before, 'moved')
  return { attempt: before.id, item: item.id, before: before.itemId, another: false }
}

/**
 * To another case, whose steps are not those that were marked: its verdict as a whole goes, in an attempt of its own by the same
 * person at the same time; what was recorded stays, struck out.
 */
function toCase(context: Context, before: AttemptStored, item: ItemStored): Answer<typeof moveContract> {
  const { tx, now } = context
  const verdict = finalVerdict.safeParse(before.verdict)
  if (!before.final || !verdict.success)
    throw new Refusal(
      'refused',
      'It has no final verdict yet, and only that can go to another case. Finish it or strike it out; nothing was moved.',
    )
  const made = beginAttempt(context, item, before.personId === null ? {} : { person: before.personId })
  saveAttempt(tx, made, {
    buildId: before.buildId,
    buildBy: before.buildBy,
    expectedBuildId: before.expectedBuildId,
    startedAt: before.startedAt,
    seconds: before.seconds,
    timing: before.timing,
    byMachine: before.byMachine,
    reason: before.reason,
    comment: [before.comment, noteOf(context, before)].filter((text) => text !== '').join('\n'),
  })
  recordWhole(context, {
    params: { key: context.project.key, id: made },
    query: undefined,
    body: {
      verdict: verdict.data,
      word: before.wholeWord ?? before.word,
      reason: null,
      client: `moved-${randomUUID()}`,
      sequence: 1,
      at: before.finishedAt ?? now,
      ...{ forOther: true as const },
    },
  })
  copyToAttempt(tx, { from: before.id, to: made, itemId: item.id, caseId: item.caseId }, now)
  const to = caseById(tx, item.caseId)
  saveAttempt(tx, before.id, { struck: `belongs to ${to ? keyOf('case', to.number) : 'another case'}` })
  follow(context, [before])
  note(context, before, 'moved')
  return { attempt: made, item: item.id, before: before.itemId, another: true }
}

/** What its steps said, in words, for where they are not. */
function noteOf({ tx }: Context, of: AttemptStored): string {
  const version = versionById(tx, of.versionId)
  const own = caseById(tx, of.caseId)
  const places = new Map(executedStepIds(tx, of.versionId).map((id, at) => [id, at + 1]))
  const marks = attemptMarks(tx, of.id)
    .filter(({ step }) => places.has(step))
    .sort((a, b) => a.row - b.row || (places.get(a.step) ?? 0) - (places.get(b.step) ?? 0))
  const told = marks.map(({ row, step, verdict, word, comment }) => {
    const where = marks.some((each) => each.row > 1)
      ? `row ${row}, step ${places.get(step)}`
      : `step ${places.get(step)}`
    return `${where} ${word ?? verdict}${comment === '' ? '' : ` (${plainText(comment)})`}`
  })
  const name = `${own ? keyOf('case', own.number) : 'another case'} ${versionName(version?.major ?? 0, version?.minor ?? 0)}`
  return `Recorded at ${name}${told.length === 0 ? '' : `: ${told.join('; ')}`}.`
}

export function moveAttemptBack(
  context: Context,
  { params, body }: Input<typeof backContract>,
): Answer<typeof backContract> {
  const { tx, project, now } = context
  const before = found(findAttempt(tx, project.id, params.id), 'This attempt')
  const made = found(findAttempt(tx, project.id, body.made), 'What it was moved to')
  if (before.struck === null || made.struck !== null || before.startedAt !== made.startedAt)
    throw new Refusal('refused', 'That move was taken back already, or was none; nothing was changed.')
  saveAttempt(tx, made.id, { struck: 'moved back' })
  saveAttempt(tx, before.id, { struck: null })
  const ended = lastLinkEnd(tx, before.id)
  endDefectLinks(tx, made.id, now)
  if (ended !== null) linkAgain(tx, before.id, ended)
  follow(context, [before, made])
  note(context, before, 'moved back')
  return { attempt: before.id }
}

/** What was said of two data rows changes places, with its words, evidence and defects; the verdict of all stays. */
export function swapAttemptRows(
  context: Context,
  { params, body }: Input<typeof swapContract>,
): Answer<typeof swapContract> {
  const { tx, project, person, now } = context
  const stored = found(findAttempt(tx, project.id, params.id), 'This attempt')
  const outcome = swapRows(loadAttempt(tx, stored), body.one, body.other)
  if (!outcome.ok) throw new Refusal('refused', outcome.sentence)
  addEvent(tx, {
    attemptId: stored.id,
    clientId: `rows-${randomUUID()}`,
    sequence: 1,
    personId: person.id,
    change: outcome.change,
    at: now,
    claimedAt: now,
    doubtful: false,
    arrival: 'in time',
    receivedAt: now,
  })
  swapStoredRows(tx, stored.id, body.one, body.other)
  note(context, stored, 'put right')
  return { attempt: stored.id }
}

type Place = Pick<AttemptStored, 'caseId' | 'environmentId' | 'buildId' | 'itemId'>

/** What stands at the places, and their items. */
function follow({ tx }: Context, places: readonly Place[]): void {
  for (const place of places) {
    refreshStanding(tx, place)
    if (place.itemId !== null) refreshItem(tx, place.itemId)
  }
}

const note = (context: Context, of: AttemptStored, action: 'moved' | 'moved back' | 'put right'): void =>
  context.change({ kind: 'attempt', id: of.id, ref: String(of.itemId ?? of.id), action })
