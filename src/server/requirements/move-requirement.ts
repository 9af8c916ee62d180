import { keyOf } from '#core/lib/key.ts'
import type { moveRequirement as contract } from '#core/requirements/contract.ts'
import { wouldCycle } from '#core/requirements/outline.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findRequirement, requirementById } from '#db/requirements/requirements.ts'
import { outlinePlaces, placeRequirement, siblings } from '#db/requirements/outline.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function moveRequirement(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project } = context
  const moved = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  if (body.under !== null) found(requirementById(tx, project.id, body.under), 'The requirement to move under')
  if (wouldCycle(outlinePlaces(tx, project.id), moved.id, body.under))
    throw new Refusal('refused', `${keyOf('requirement', params.ref)} cannot be moved below itself.`)
  const others = siblings(tx, project.id, body.under).filter((id) => id !== moved.id)
  const at = body.before === null ? others.length : others.indexOf(body.before)
  if (at < 0) throw new Refusal('invalid', 'The requirement to move before is not there.')
  placeRequirement(tx, moved.id, body.under, [...others.slice(0, at), moved.id, ...others.slice(at)])
  context.change({
    kind: 'requirement',
    id: moved.id,
    ref: keyOf('requirement', moved.number),
    action: 'moved',
    detail: { parent: [moved.parentId, body.under] },
  })
  return { ok: true }
}
