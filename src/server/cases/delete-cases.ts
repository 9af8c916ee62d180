import type { deleteCases as contract } from '#core/cases/contract.ts'
import { caseRows } from '#db/cases/list.ts'
import { hideRows } from '#db/finding/search.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function deleteCases(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  const rows = caseRows(context.tx, context.project.id, body.ids)
  hideRows(
    context.tx,
    'test_case',
    rows.map(({ id }) => id),
    context.now,
  )
  for (const { id, key } of rows) context.change({ kind: 'case', id, ref: key, action: 'deleted' })
  return { refs: rows.map(({ key }) => key) }
}
