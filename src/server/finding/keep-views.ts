import type {
  deleteView as dropContract,
  listViews as listContract,
  saveView as saveContract,
} from '#core/finding/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addView, hideView, listViews as views } from '#db/projects/views.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const listViews = (
  { tx, project, person }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> => ({ rows: views(tx, project.id, query.list, person.id) })

export const saveView = (
  { tx, project, person }: Context,
  { body }: Input<typeof saveContract>,
): Answer<typeof saveContract> => ({ id: addView(tx, { projectId: project.id, ownerId: person.id, ...body }) })

export function deleteView(
  { tx, project, person, now }: Context,
  { params }: Input<typeof dropContract>,
): Answer<typeof dropContract> {
  if (hideView(tx, project.id, params.id, person.id, now) === 0)
    throw new Refusal('not-found', 'There is no such view of yours.')
  return { ok: true }
}
