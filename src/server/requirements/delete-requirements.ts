import type { deleteRequirements as contract } from '#core/requirements/contract.ts'
import { branchIds } from '#db/requirements/outline.ts'
import { hideRows } from '#db/finding/search.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

/** Hides requirements with all below them; their links and results stay for when they are brought back. */
export function deleteRequirements(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  const branch = branchIds(context.tx, context.project.id, body.ids)
  hideRows(
    context.tx,
    'requirement',
    branch.map(({ id }) => id),
    context.now,
  )
  for (const { id, key } of branch) context.change({ kind: 'requirement', id, ref: key, action: 'deleted' })
  return { refs: branch.map(({ key }) => key) }
}
