import type { addComment as addContract, listComments as listContract } from '#core/talk/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addComment as store, listComments as stored } from '#db/talk/queries.ts'
import { objectOf } from '#db/finding/search.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { cleanHtml } from './clean-html.ts'

function ownerOf({ tx, project }: Context, ref: string): { kind: string; id: number } {
  const owner = objectOf(tx, project.id, ref)
  if (!owner) throw new Refusal('not-found', `There is no ${ref} in this project.`)
  return owner
}

export function listComments(context: Context, { query }: Input<typeof listContract>): Answer<typeof listContract> {
  const owner = ownerOf(context, query.ref)
  return { rows: stored(context.tx, owner.kind, owner.id).map(({ personId, ...row }) => ({ ...row, mine: personId === context.person.id })) }
}

export function addComment(context: Context, { body }: Input<typeof addContract>): Answer<typeof addContract> {
  const owner = ownerOf(context, body.ref)
  const id = store(context.tx, { projectId: context.project.id, ownerKind: owner.kind, ownerId: owner.id, text: cleanHtml(body.text), at: context.now, personId: context.person.id })
  context.change({ kind: owner.kind, id: owner.id, ref: body.ref, action: 'commented', verdict: true })
  return { id }
}
