import { changedFields } from '#core/history/changes.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { updateRelease as contract } from '#core/projects/contract.ts'
import { releaseById, saveRelease } from '#db/projects/releases.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { refuseTwin } from './set-up-project.ts'
import { freezeReleasePlans } from '#server/plans/freeze-plan.ts'

/** What it says of itself; the plans of one that ships are frozen as they stand. */
export function updateRelease(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project } = context
  const before = found(releaseById(tx, project.id, params.id), 'That release')
  const edit = definedOf(body)
  const detail = changedFields({ ...before }, edit)
  if (Object.keys(detail).length === 0) return { ok: true }
  if (edit.name !== undefined && edit.name !== before.name) refuseTwin(context, 'releases', edit.name)
  const next = { ...before, ...edit }
  if (next.startOn !== null && next.dueOn !== null && next.dueOn < next.startOn)
    throw new Refusal('invalid', 'The release would be due before it begins; nothing was stored.', {
      fields: [{ field: 'dueOn', message: 'is before the beginning' }],
    })
  saveRelease(tx, before.id, edit)
  if ((next.state === 'Shipped') !== (before.state === 'Shipped'))
    freezeReleasePlans(context, next, next.state === 'Shipped')
  context.change({ kind: 'release', id: before.id, ref: next.name, action: 'changed', detail })
  return { ok: true }
}
