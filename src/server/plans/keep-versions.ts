import { once } from '#core/lib/once.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { changedKinds, definitionChanges } from '#core/plans/definition.ts'
import type {
  answerPlanReview as answerContract,
  askPlanReview as askContract,
  listPlanVersions as listContract,
  PlanComparison,
  readPlanVersion as readContract,
} from '#core/plans/versions-contract.ts'
import { membersOf } from '#db/people/members.ts'
import { findPlan, type PlanStored, savePlan } from '#db/plans/plans.ts'
import {
  askSignatures,
  countOnlyIn,
  findPlanVersion,
  lastVersion,
  onlyIn,
  savePlanVersion,
  sign,
  signaturesOf,
  versionNumber,
  versionRows,
  type VersionStored,
} from '#db/plans/versions.ts'
import { tell } from '#db/talk/inbox.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { definitionOf } from './define-plan.ts'
import { changesSince, cutPlanVersion } from './freeze-plan.ts'
import { openPlan } from './open-plan.ts'

export function listPlanVersions(
  { tx, project }: Context,
  { params, query }: Input<typeof listContract>,
): Answer<typeof listContract> {
  const plan = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  const rows = versionRows(tx, plan.id, query)
  return { rows, next: rows.length === query.limit ? (rows.at(-1)?.version ?? null) : null }
}

const nameOf = (plan: Pick<PlanStored, 'number'>, version: number): string =>
  `Version ${version} of ${keyOf('plan', plan.number)}`

export function readPlanVersion(
  context: Context,
  { params, query }: Input<typeof readContract>,
): Answer<typeof readContract> {
  const { tx, project, person } = context
  const plan = found(findPlan(tx, project.id, params.ref), keyOf('plan', params.ref))
  const version = found(findPlanVersion(tx, plan.id, params.version), nameOf(plan, params.version))
  const other =
    query.with === undefined ? null : found(findPlanVersion(tx, plan.id, query.with), nameOf(plan, query.with))
  const [row] = versionRows(tx, plan.id, { before: version.number + 1, limit: 1 })
  if (!row) throw new Error(`version ${version.id} has no row`)
  const own = row.signatures.find(({ id }) => id === person.id)
  return {
    ...row,
    definition: [...version.definition],
    signedBefore: lastVersion(tx, plan.id, ['Signed off'], version.number)?.number ?? null,
    comparison: compared(context, plan, version, other),
    mine: version.state !== 'In review' || !own ? 'no' : own.answer === null ? 'asked' : 'answered',
  }
}

const mostTold = 200

/** The older of the two first; without another version the plan as it stands is the newer. */
function compared(
  { tx }: Context,
  plan: PlanStored,
  version: VersionStored,
  other: VersionStored | null,
): PlanComparison {
  const [older, newer] = other && other.number < version.number ? [other, version] : [version, other]
  const was = { version: older.id }
  const is = newer ? { version: newer.id } : { plan: plan.id }
  return {
    with: other?.number ?? null,
    changes: definitionChanges(older.definition, newer?.definition ?? definitionOf(tx, plan)),
    came: onlyIn(tx, is, was, mostTold),
    cameTotal: countOnlyIn(tx, is, was),
    went: onlyIn(tx, was, is, mostTold),
    wentTotal: countOnlyIn(tx, was, is),
  }
}

/** Freezes a version and asks people about it; one that waited for answers is withdrawn. */
export function askPlanReview(
  context: Context,
  { params, body }: Input<typeof askContract>,
): Answer<typeof askContract> {
  const { tx, project, person, now } = context
  const plan = openPlan(context, params.ref)
  const people = [...new Set(body.people)]
  refuseSigners(context, people)
  const waiting = lastVersion(tx, plan.id, ['In review'])
  if (waiting) savePlanVersion(tx, waiting.id, { state: 'Withdrawn', endedAt: now })
  const { id, number } = cutPlanVersion(context, plan, { state: 'In review', note: body.note })
  askSignatures(tx, id, people)
  const key = keyOf('plan', plan.number)
  for (const personId of people)
    tell(tx, {
      projectId: project.id,
      personId,
      kind: 'review',
      ref: key,
      text: `asks you to review and sign ${plan.title}, version ${number}`,
      fromId: person.id,
      at: now,
    })
  savePlan(tx, plan.id, { state: 'In review', version: plan.version + 1, updatedAt: now })
  context.change({
    kind: 'plan',
    id: plan.id,
    ref: key,
    action: 'review asked',
    detail: { version: [null, number], of: [null, people], ...(body.note !== '' && { why: [null, body.note] }) },
  })
  return { version: number }
}

/** A plan is signed by others than the one who puts it up, and by people who may say something about it. */
function refuseSigners({ tx, project, person }: Context, people: readonly string[]): void {
  if (people.includes(person.id))
    throw new Refusal('invalid', 'You put this plan up yourself, so others have to sign it; nobody was asked.')
  const members = membersOf(tx, project.id)
  for (const id of people) {
    const who = members.find((each) => each.id === id)
    if (!who || who.role === 'viewer')
      throw new Refusal(
        'invalid',
        `${who?.name ?? 'Somebody named here'} cannot sign in this project; nobody was asked.`,
      )
  }
}

export function answerPlanReview(
  context: Context,
  { params, body }: Input<typeof answerContract>,
): Answer<typeof answerContract> {
  const { tx, person, now } = context
  const plan = openPlan(context, params.ref)
  const version = found(findPlanVersion(tx, plan.id, params.version), nameOf(plan, params.version))
  refuseAnswer(context, plan, version)
  if (body.answer === 'approved') refuseChanged(context, plan, version)
  if (body.answer === 'sent back' && body.words === '')
    throw new Refusal('invalid', 'Say what is missing; nothing was stored.', {
      fields: [{ field: 'words', message: 'is asked for' }],
    })
  sign(tx, { versionId: version.id, personId: person.id }, { ...body, at: now })
  const all = signaturesOf(tx, [version.id]).get(version.id) ?? []
  const state =
    body.answer === 'sent back'
      ? 'Sent back'
      : all.every(({ answer }) => answer === 'approved')
        ? 'Signed off'
        : 'In review'
  if (state !== 'In review') {
    savePlanVersion(tx, version.id, { state, endedAt: now })
    savePlan(tx, plan.id, {
      state: state === 'Signed off' ? state : 'Drafting',
      version: plan.version + 1,
      updatedAt: now,
    })
  }
  context.change({
    kind: 'plan',
    id: plan.id,
    ref: keyOf('plan', plan.number),
    action: state === 'Signed off' ? 'signed off' : body.answer,
    detail: { version: [null, version.number], ...(body.words !== '' && { why: [null, body.words] }) },
  })
  tellAsker(context, plan, {
    version,
    said: `${body.answer}${state === 'Signed off' ? ', the last of all' : ''}`,
    words: body.words,
  })
  return { state }
}

function refuseAnswer({ tx, person }: Context, plan: PlanStored, version: VersionStored): void {
  if (!(signaturesOf(tx, [version.id]).get(version.id) ?? []).some(({ id }) => id === person.id))
    throw new Refusal('refused', `You were not asked about ${nameOf(plan, version.number)}; nothing was stored.`)
  if (version.state !== 'In review')
    throw new Refusal(
      'refused',
      `${nameOf(plan, version.number)} is ${version.state.toLowerCase()} and waits for nobody any more; nothing was stored. Your words are kept here.`,
    )
}

/** Nobody signs what the plan does not say any more. */
function refuseChanged(context: Context, plan: PlanStored, version: VersionStored): void {
  const changes = changesSince(context, plan, version)
  if (changes.length > 0)
    throw new Refusal(
      'refused',
      `${keyOf('plan', plan.number)} changed after version ${version.number} was put up (${changedKinds(changes)}), so what you would sign is not what it says now. Nothing was signed; your words are kept here. It has to be put up again, or sent back.`,
    )
}

function tellAsker(
  { tx, project, person, now }: Context,
  plan: PlanStored,
  { version, said, words }: { version: VersionStored; said: string; words: string },
): void {
  if (version.personId === null) return
  tell(tx, {
    projectId: project.id,
    personId: version.personId,
    kind: 'answer',
    ref: keyOf('plan', plan.number),
    text: `${said}: ${plan.title}, version ${version.number}${words === '' ? '' : `. ${words}`}`,
    fromId: person.id,
    at: now,
  })
}

/** How a plan stands to the version last signed and the one people are asked about. */
export function signedOf(context: Pick<Context, 'tx' | 'project'>, plan: PlanStored) {
  const { tx } = context
  const signed = lastVersion(tx, plan.id, ['Signed off'])
  const asked = lastVersion(tx, plan.id, ['In review'])
  const signatures = signaturesOf(
    tx,
    [signed, asked].flatMap((each) => each?.id ?? []),
  )
  const definition = once(() => definitionOf(tx, plan))
  const told = (version: VersionStored) => {
    const changes = definitionChanges(version.definition, definition())
    return {
      version: version.number,
      at: version.endedAt ?? version.at,
      stale: changedKinds(changes),
      changes: changes.length,
    }
  }
  const by = asked?.personId == null ? null : membersOf(tx, context.project.id).find(({ id }) => id === asked.personId)
  return {
    signed: signed
      ? {
          ...told(signed),
          by: (signatures.get(signed.id) ?? []).map(({ name }) => name),
          came: countOnlyIn(tx, { plan: plan.id }, { version: signed.id }),
          went: countOnlyIn(tx, { version: signed.id }, { plan: plan.id }),
        }
      : null,
    asked: asked ? { ...told(asked), by: by?.name ?? null, signatures: signatures.get(asked.id) ?? [] } : null,
    frozen: plan.frozenVersionId === null ? null : versionNumber(tx, plan.frozenVersionId),
  }
}

/**
 * A plan is in review and signed off by what people answered. By hand it goes back to drafting, which withdraws what waits; and back
 * to where it was, where that can be.
 */
export function moveState(context: Context, plan: PlanStored, to: PlanStored['state']): void {
  const { tx, now } = context
  const last = lastVersion(tx, plan.id, ['In review', 'Withdrawn', 'Sent back', 'Signed off'])
  switch (to) {
    case 'In review':
      if (last?.state !== 'In review' && last?.state !== 'Withdrawn')
        throw new Refusal(
          'refused',
          'A plan is in review once people are asked to sign it; ask for a review. Nothing was stored.',
        )
      return savePlanVersion(tx, last.id, { state: 'In review', endedAt: null })
    case 'Signed off':
      if (last?.state !== 'Signed off')
        throw new Refusal(
          'refused',
          'A plan is signed off by the people who are asked to; ask for a review. Nothing was stored.',
        )
      return
    case 'Drafting':
      if (last?.state === 'In review') savePlanVersion(tx, last.id, { state: 'Withdrawn', endedAt: now })
      return
    case 'Closed':
      return
  }
}
