import type { listCases as listContract, orderCases as orderContract } from '#core/cases/contract.ts'
import { caseFields, ownFieldDefinitions } from '#core/finding/fields.ts'
import type { ListQuery } from '#core/lib/shapes.ts'
import { caseId, caseRows, caseSource } from '#db/cases/list.ts'
import { customFields, ownFieldSql } from '#db/projects/fields.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { withFindings } from '#server/projects/scope-filter.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

type Asking = Pick<Context, 'tx' | 'project' | 'now'>

/** What can be asked of cases here: their fields and the project's own. */
function question({ tx, project, now }: Asking) {
  const own = customFields(tx, project.id, 'case')
  const source = caseSource(project.id, now)
  return {
    source: { ...source, fields: { ...source.fields, ...ownFieldSql(own, caseId) } },
    fields: [...caseFields, ...ownFieldDefinitions(own)],
  }
}

export const casesPageOf = (context: Asking, query: ListQuery): Answer<typeof listContract> =>
  answerPage(context.tx, query, { ...question(context), rows: (ids) => caseRows(context.tx, context.project.id, ids) })

export const listCases = async (
  context: OpenContext,
  { query }: Input<typeof listContract>,
): Promise<Answer<typeof listContract>> => casesPageOf(context, await withFindings(context, query, 'cases'))
export const orderCases = async (
  context: OpenContext,
  { query }: Input<typeof orderContract>,
): Promise<Answer<typeof orderContract>> =>
  answerOrder(context.tx, await withFindings(context, query, 'cases'), question(context))
