import type { Keyed } from '#core/lib/key.ts'
import type {
  addComment as addContract,
  listComments as listContract,
  listInbox as inboxContract,
  readInbox as readContract,
} from '#core/talk/contract.ts'
import { mentionsIn } from '#core/talk/mentions.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { ownStepIds } from '#db/cases/uses.ts'
import { addComment as store, listComments as stored } from '#db/talk/queries.ts'
import { markNotices, noticesOf, tell, unreadOf } from '#db/talk/inbox.ts'
import { objectOf } from '#db/finding/search.ts'
import { membersOf } from '#db/people/members.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function ownerOf({ tx, project }: Pick<Context, 'tx' | 'project'>, ref: string): { kind: Keyed; id: number } {
  const owner = objectOf(tx, project.id, ref)
  if (!owner) throw new Refusal('not-found', `There is no ${ref} in this project.`)
  return owner
}

export function listComments(context: Context, { query }: Input<typeof listContract>): Answer<typeof listContract> {
  const owner = ownerOf(context, query.ref)
  return {
    rows: stored(context.tx, owner.kind, owner.id).map(({ personId, ...row }) => ({
      ...row,
      mine: personId === context.person.id,
    })),
  }
}

export function addComment(context: Context, { body }: Input<typeof addContract>): Answer<typeof addContract> {
  const { tx, project, person, now } = context
  const owner = ownerOf(context, body.ref)
  if (body.step !== null && (owner.kind !== 'case' || !ownStepIds(tx, owner.id).has(body.step)))
    throw new Refusal('invalid', `${body.ref} has no such step any more; nothing was stored.`)
  if (body.part !== null && owner.kind !== 'plan')
    throw new Refusal('invalid', `${body.ref} has no parts to comment on; nothing was stored.`)
  const { text } = body
  const id = store(tx, {
    projectId: project.id,
    ownerKind: owner.kind,
    ownerId: owner.id,
    stepId: body.step,
    part: body.part,
    text,
    at: now,
    personId: person.id,
  })
  const people = membersOf(tx, project.id)
  const told = mentionsIn(plainText(text), people)
  for (const personId of told)
    tell(tx, {
      projectId: project.id,
      personId,
      kind: 'mention',
      ref: body.ref,
      text: plainText(text),
      fromId: person.id,
      at: now,
    })
  context.change({ kind: owner.kind, id: owner.id, ref: body.ref, action: 'commented', verdict: true })
  return { id, told: people.filter((each) => told.includes(each.id) && each.id !== person.id).map(({ name }) => name) }
}

export function listInbox(
  { tx, project, person }: Context,
  { query }: Input<typeof inboxContract>,
): Answer<typeof inboxContract> {
  const rows = noticesOf(tx, project.id, person.id, query)
  return {
    rows: rows.map(({ readAt, ...row }) => ({ ...row, read: readAt !== null })),
    unread: unreadOf(tx, project.id, person.id),
    next: rows.length === query.limit ? (rows.at(-1)?.id ?? null) : null,
  }
}

export function readInbox(
  { tx, person, now }: Context,
  { body }: Input<typeof readContract>,
): Answer<typeof readContract> {
  markNotices(tx, person.id, body.ids, body.read ? now : null)
  return { ok: true }
}
