import type { addEvidence as addContract, readEvidence as readContract } from '#core/runs/desk-contract.ts'
import type { removeEvidence as removeContract } from '#core/runs/note-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { evidenceOf } from '#db/runs/evidence.ts'
import { findAttempt } from '#db/runs/attempts.ts'
import { addAttachment, findAttachment, hideAttachment } from '#db/talk/queries.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { landFile, fileAnswer } from '#server/talk/evidence-files.ts'

/** Streams the bytes to disk under their hash, judged by content and not by what they claim, then stores the row. */
export async function addEvidence(
  { services, request, project, tx, store, now }: OpenContext,
  { params, query }: Input<typeof addContract>,
): Promise<Answer<typeof addContract>> {
  const attempt = findAttempt(tx, project.id, params.id)
  if (!attempt) throw new Refusal('not-found', 'There is no such attempt in this project.')
  const landed = await landFile(services, request, 'kept as evidence')
  return store((context) => {
    const id = addAttachment(context.tx, {
      projectId: project.id,
      ownerKind: 'attempt',
      ownerId: attempt.id,
      row: query.row ?? null,
      stepId: query.step ?? null,
      hash: landed.hash,
      name: query.name,
      mime: landed.mime,
      size: landed.size,
      at: now,
      personId: context.person.id,
    })
    context.change({
      kind: 'attempt',
      id: attempt.id,
      ref: String(attempt.itemId ?? attempt.id),
      action: 'evidence',
      verdict: true,
    })
    const stored = evidenceOf(context.tx, project.key, attempt.id).find((each) => each.id === id)
    if (!stored) throw new Error(`attachment ${id} is gone`)
    return stored
  })
}

/** The bytes, with headers that keep a file from acting as a page of ours. */
export const readEvidence = async (context: OpenContext, { params }: Input<typeof readContract>): Promise<Response> =>
  fileAnswer(context, params.id)

export function removeEvidence(
  context: Context,
  { params, query }: Input<typeof removeContract>,
): Answer<typeof removeContract> {
  const stored = findAttachment(context.tx, context.project.id, params.id)
  if (!stored) throw new Refusal('not-found', 'There is no such evidence in this project.')
  hideAttachment(context.tx, stored.id, query.undo ? null : context.now)
  context.change({
    kind: 'attempt',
    id: stored.ownerId,
    ref: String(stored.ownerId),
    action: query.undo ? 'evidence' : 'evidence removed',
    verdict: true,
  })
  return { ok: true }
}
