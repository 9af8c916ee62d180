import { keyedKind } from '#core/lib/key.ts'
import type {
  addFile as addContract,
  listAttachments as listContract,
  removeFile as removeContract,
} from '#core/talk/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addAttachment, attachmentsOf, findAttachment, hideAttachment } from '#db/talk/queries.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { landFile } from '#server/talk/evidence-files.ts'
import { ownerOf } from './comments.ts'

type Shown = Answer<typeof listContract>['rows'][number]
const urlOf = (key: string, id: number): string => `/api/v1/projects/${key}/evidence/${id}`

export function listAttachments(context: Context, { query }: Input<typeof listContract>): Answer<typeof listContract> {
  const owner = ownerOf(context, query.ref)
  return {
    rows: attachmentsOf(context.tx, owner.kind, owner.id).map((row): Shown => ({
      ...row,
      url: urlOf(context.project.key, row.id),
    })),
  }
}

export async function addFile(
  context: OpenContext,
  { query }: Input<typeof addContract>,
): Promise<Answer<typeof addContract>> {
  const owner = ownerOf(context, query.ref)
  const landed = await landFile(context.services, context.request, 'attached')
  return context.store(({ tx, project, person, now, change }) => {
    const id = addAttachment(tx, {
      projectId: project.id,
      ownerKind: owner.kind,
      ownerId: owner.id,
      hash: landed.hash,
      name: query.name,
      mime: landed.mime,
      size: landed.size,
      at: now,
      personId: person.id,
    })
    change({
      kind: owner.kind,
      id: owner.id,
      ref: query.ref,
      action: 'file attached',
      detail: { file: [null, query.name] },
      verdict: true,
    })
    return {
      id,
      name: query.name,
      mime: landed.mime,
      size: landed.size,
      at: now,
      person: person.name,
      url: urlOf(project.key, id),
    }
  })
}

export function removeFile(
  context: Context,
  { params, query }: Input<typeof removeContract>,
): Answer<typeof removeContract> {
  const stored = findAttachment(context.tx, context.project.id, params.id)
  const kind = stored && keyedKind(stored.ownerKind)
  if (!kind) throw new Refusal('not-found', 'There is no such file in this project.')
  hideAttachment(context.tx, stored.id, query.undo ? null : context.now)
  context.change({
    kind,
    id: stored.ownerId,
    ref: stored.name,
    action: query.undo ? 'file brought back' : 'file taken away',
    verdict: true,
  })
  return { ok: true }
}
