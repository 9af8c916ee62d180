import { keyOf } from '#core/lib/key.ts'
import type { tickChecklist as tickContract, writeChecklist as writeContract } from '#core/techniques/contract.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { outlineLines } from '#core/lib/outline-lines.ts'
import { findCase } from '#db/cases/cases.ts'
import { findRequirement } from '#db/requirements/requirements.ts'
import { addChecklist, checklistRequirement, saveChecklist } from '#db/techniques/queries.ts'
import { type Context, found } from '#server/http/context.ts'
import { refuseLines } from '#server/requirements/write-requirement-lines.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { tellRequirement } from './keep-models.ts'

export function writeChecklist(
  context: Context,
  { params, body }: Input<typeof writeContract>,
): Answer<typeof writeContract> {
  const { tx, project } = context
  const own = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  const lines = outlineLines(body.lines)
  refuseLines(lines)
  const ids = addChecklist(
    tx,
    { projectId: project.id, requirementId: own.id },
    lines.map(({ title }) => title),
  )
  tellRequirement(context, own.id, 'checklist written', {
    checklist: [null, lines.map(({ title }) => title).slice(0, 50)],
  })
  return { ids }
}

export function tickChecklist(
  context: Context,
  { params, body }: Input<typeof tickContract>,
): Answer<typeof tickContract> {
  const { tx, project, now, by } = context
  // What was taken away can be brought back, so a deleted entry is found as well.
  const requirement = checklistRequirement(tx, project.id, params.id)
  if (!requirement) throw new Refusal('not-found', 'There is no such entry in this project.')
  if (Object.keys(definedOf(body)).length === 0) return { ok: true }
  const done =
    body.case === undefined || body.case === null
      ? body.case
      : found(findCase(tx, project.id, Number(body.case.slice(3))), body.case).id
  saveChecklist(tx, params.id, {
    ...(body.text !== undefined && { text: body.text }),
    ...(body.done !== undefined && { doneAt: body.done ? now : null, doneBy: body.done ? by.personId : null }),
    ...(done !== undefined && { caseId: done }),
    ...(body.deleted !== undefined && { deletedAt: body.deleted ? now : null }),
  })
  tellRequirement(context, requirement.id, 'checklist changed', {
    checklist: [
      null,
      body.text ??
        (body.deleted
          ? 'taken away'
          : body.done === undefined
            ? (body.case ?? 'no case')
            : body.done
              ? 'done'
              : 'open'),
    ],
  })
  return { ok: true }
}
