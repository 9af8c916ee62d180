import type { listRequirements as listContract, orderRequirements as orderContract } from '#core/requirements/contract.ts'
import { requirementFields } from '#core/finding/fields.ts'
import { outlineOrder } from '#core/requirements/outline.ts'
import type { ListQuery } from '#core/lib/shapes.ts'
import { depthsOf, outlinePlaces, requirementRows, requirementSource } from '#db/requirements/queries.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function listRequirements(context: Context, { query }: Input<typeof listContract>): Answer<typeof listContract> {
  const { tx, project } = context
  const rows = (ids: readonly number[]) => requirementRows(tx, project.id, ids, depthsOf(tx, project.id))
  if (query.ids || query.sort) return answerPage(tx, query, { source: requirementSource(project.id), fields: requirementFields, rows })
  const { ids, total } = outlined(context, query)
  const cursor = query.cursor ?? 0
  const page = ids.slice(cursor, cursor + query.limit)
  return { rows: rows(page), total, next: cursor + page.length < total ? cursor + page.length : null }
}

export function orderRequirements(context: Context, { query }: Input<typeof orderContract>): Answer<typeof orderContract> {
  return query.sort || query.group ? answerOrder(context.tx, query, { source: requirementSource(context.project.id), fields: requirementFields }) : outlined(context, query)
}

/** Unless sorted otherwise, a list of requirements is read as the outline. */
function outlined({ tx, project }: Context, query: ListQuery): Answer<typeof orderContract> {
  const answer = answerOrder(tx, query, { source: requirementSource(project.id), fields: requirementFields })
  const shown = new Set(answer.ids)
  const ids = outlineOrder(outlinePlaces(tx, project.id)).flatMap(({ place }) => (shown.has(place.id) ? [place.id] : []))
  return { ...answer, ids }
}
