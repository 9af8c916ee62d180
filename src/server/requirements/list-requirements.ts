import type {
  listRequirements as listContract,
  orderRequirements as orderContract,
} from '#core/requirements/contract.ts'
import { ownFieldDefinitions, requirementFields } from '#core/finding/fields.ts'
import { outlineOrder } from '#core/requirements/outline.ts'
import type { ListQuery } from '#core/lib/shapes.ts'
import { customFields, ownFieldSql } from '#db/projects/fields.ts'
import { depthsOf, outlinePlaces } from '#db/requirements/outline.ts'
import { requirementId, requirementRows, requirementSource } from '#db/requirements/list.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { withFindings } from '#server/projects/scope-filter.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export const listRequirements = async (
  context: OpenContext,
  { query }: Input<typeof listContract>,
): Promise<Answer<typeof listContract>> =>
  requirementsPageOf(context, await withFindings(context, query, 'requirements'))
export const orderRequirements = async (
  context: OpenContext,
  { query }: Input<typeof orderContract>,
): Promise<Answer<typeof orderContract>> => orderOf(context, await withFindings(context, query, 'requirements'))

type Asking = Pick<Context, 'tx' | 'project' | 'now'>

/** What can be asked of requirements here: their fields and the project's own. */
function question({ tx, project, now }: Asking) {
  const own = customFields(tx, project.id, 'requirement')
  const source = requirementSource(project.id, now)
  return {
    source: { ...source, fields: { ...source.fields, ...ownFieldSql(own, requirementId) } },
    fields: [...requirementFields, ...ownFieldDefinitions(own)],
  }
}

export function requirementsPageOf(context: Asking, query: ListQuery): Answer<typeof listContract> {
  const { tx, project } = context
  const rows = (ids: readonly number[]) => requirementRows(tx, project.id, ids, depthsOf(tx, project.id))
  if (query.ids || query.sort) return answerPage(tx, query, { ...question(context), rows })
  const { ids, total } = outlined(context, query)
  const cursor = query.cursor ?? 0
  const page = ids.slice(cursor, cursor + query.limit)
  return { rows: rows(page), total, next: cursor + page.length < total ? cursor + page.length : null }
}

const orderOf = (context: Asking, query: ListQuery): Answer<typeof orderContract> =>
  query.sort || query.group ? answerOrder(context.tx, query, question(context)) : outlined(context, query)

/** Unless sorted otherwise, a list of requirements is read as the outline. */
function outlined(context: Asking, query: ListQuery): Answer<typeof orderContract> {
  const answer = answerOrder(context.tx, query, question(context))
  const shown = new Set(answer.ids)
  const ids = outlineOrder(outlinePlaces(context.tx, context.project.id)).flatMap(({ place }) =>
    shown.has(place.id) ? [place.id] : [],
  )
  return { ...answer, ids }
}
