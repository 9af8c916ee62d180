import { keyOf } from '#core/lib/key.ts'
import type { reviewCase as contract } from '#core/review/contract.ts'
import { versionName } from '#core/cases/steps.ts'
import { appliesTo } from '#core/projects/custom.ts'
import { Refusal } from '#core/lib/refusal.ts'
import {
  addVersion,
  setVersionState,
  type VersionStored,
  versionById,
  workingCopy,
  writersOf,
} from '#db/cases/versions.ts'
import { type CaseStored, findCase, saveCase } from '#db/cases/cases.ts'
import { answerReview, askReview } from '#db/review/reviews.ts'
import { customFields, valuesOf } from '#db/projects/fields.ts'
import { membersOf } from '#db/people/members.ts'
import { tell } from '#db/talk/inbox.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { cutFrom } from '#server/cases/cut-version.ts'

/** Asks for review, sends back, or approves: approval makes the next whole number and is a lead's, never the author's own. */
export function reviewCase(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project } = context
  const stored = found(findCase(tx, project.id, params.ref), keyOf('case', params.ref))
  if (body.to !== 'Draft') refuseMissing(context, stored)
  const cut = cutFrom(context, stored, body.to === 'In review' ? body.why : '')
  const newest = cut.id === null ? undefined : versionById(tx, cut.id)
  if (!newest)
    throw new Refusal('refused', `${keyOf('case', params.ref)} has nothing to review yet; write its steps first.`)
  if (body.to === 'Approved') return approve(context, stored, { newest, why: body.why, cut: cut.name })
  setVersionState(tx, newest.id, { state: body.to })
  saveCase(tx, stored.id, { state: body.to, version: stored.version + 1 })
  context.change({
    kind: 'case',
    id: stored.id,
    ref: keyOf('case', stored.number),
    action: body.to === 'In review' ? 'review asked' : 'sent back',
    detail: {
      state: [newest.state, body.to],
      ...(body.people.length > 0 && { of: [null, body.people] }),
      ...(body.why !== '' && { why: [null, body.why] }),
    },
  })
  if (body.to === 'In review') askPeople(context, stored, { newest, people: body.people, name: cut.name ?? '' })
  else answer(context, stored, { answer: 'sent back', why: body.why })
  return { name: cut.name ?? '' }
}

/** A field the project requires may be empty while a case is drafted; a review is asked of a whole case. */
function refuseMissing({ tx, project }: Context, stored: CaseStored): void {
  const values = valuesOf(tx, 'case', project.id, [stored.id]).get(stored.id) ?? {}
  const missing = customFields(tx, project.id, 'case').filter(
    (field) => field.required && appliesTo(field, stored.type) && (values[String(field.id)]?.length ?? 0) === 0,
  )
  if (missing.length > 0)
    throw new Refusal(
      'refused',
      `${keyOf('case', stored.number)} does not say ${missing.map(({ name }) => name).join(', ')}, which this project requires; nothing was asked.`,
      { fields: missing.map(({ id }) => ({ field: `custom.${id}`, message: 'is required' })) },
    )
}

function approve(
  context: Context,
  stored: CaseStored,
  of: { newest: VersionStored; why: string; cut: string | null },
): Answer<typeof contract> {
  const { tx } = context
  if (context.role !== 'lead') throw new Refusal('not-allowed', 'Approving asks for the role lead.')
  if (writersOf(tx, stored.id).includes(context.person.id))
    throw new Refusal('refused', 'You wrote in this version, so somebody else has to approve it.')
  const major = (of.newest.major ?? 0) + 1
  const id = addVersion(tx, workingCopy(tx, stored.id), {
    major,
    minor: 0,
    state: 'Approved',
    why: of.why === '' ? 'approved' : of.why,
    now: context.now,
    personId: context.person.id,
  })
  saveCase(tx, stored.id, {
    newestVersionId: id,
    approvedVersionId: id,
    state: 'Approved',
    version: stored.version + 1,
  })
  context.change({
    kind: 'case',
    id: stored.id,
    ref: keyOf('case', stored.number),
    action: 'approved',
    detail: { version: [of.cut, versionName(major, 0)] },
  })
  answer(context, stored, { answer: 'approved', why: of.why })
  return { name: versionName(major, 0) }
}

function askPeople(
  context: Context,
  stored: CaseStored,
  of: { newest: VersionStored; people: readonly string[]; name: string },
): void {
  const { tx, project, person, now } = context
  const members = membersOf(tx, project.id)
  for (const personId of new Set(of.people)) {
    const who = members.find(({ id }) => id === personId)
    if (!who || who.role === 'viewer')
      throw new Refusal(
        'invalid',
        `${who?.name ?? 'Somebody named here'} cannot review in this project; nobody was asked.`,
      )
    askReview(tx, {
      projectId: project.id,
      caseId: stored.id,
      versionId: of.newest.id,
      askedBy: person.id,
      personId,
      at: now,
    })
    tell(tx, {
      projectId: project.id,
      personId,
      kind: 'review',
      ref: keyOf('case', stored.number),
      text: `asks you to review ${stored.title}, version ${of.name}`,
      fromId: person.id,
      at: now,
    })
  }
}

/** Whoever was asked has answered; whoever asked is told, and so is the author. */
function answer(context: Context, stored: CaseStored, of: { answer: 'approved' | 'sent back'; why: string }): void {
  const { tx, project, person, now } = context
  for (const personId of answerReview(tx, { caseId: stored.id, personId: person.id, answer: of.answer, at: now }))
    tell(tx, {
      projectId: project.id,
      personId,
      kind: 'answer',
      ref: keyOf('case', stored.number),
      text: `${of.answer === 'approved' ? 'approved' : 'sent back'} ${stored.title}${of.why === '' ? '' : `: ${of.why}`}`,
      fromId: person.id,
      at: now,
    })
}
