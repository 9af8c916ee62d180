import type { listCases as listContract, orderCases as orderContract } from '#core/cases/contract.ts'
import { allCaseFields } from '#core/finding/fields.ts'
import type { ListQuery } from '#core/lib/shapes.ts'
import { caseAskSource, ownFieldsOf } from '#db/cases/ask.ts'
import { caseRows } from '#db/cases/list.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { withFindings } from '#server/projects/scope-filter.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

type Asking = Pick<Context, 'tx' | 'project' | 'now'>

/** What can be asked of cases here. */
function question({ tx, project, now }: Asking) {
  const own = ownFieldsOf(tx, project.id)
  return { source: caseAskSource(project.id, own, now), fields: allCaseFields(own) }
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
