import type { listCases as listContract, orderCases as orderContract } from '#core/cases/contract.ts'
import { caseFields } from '#core/finding/fields.ts'
import { caseRows, caseSource } from '#db/cases/queries.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const listCases = ({ tx, project }: Context, { query }: Input<typeof listContract>): Answer<typeof listContract> =>
  answerPage(tx, query, { source: caseSource(project.id), fields: caseFields, rows: (ids) => caseRows(tx, project.id, ids) })

export const orderCases = ({ tx, project }: Context, { query }: Input<typeof orderContract>): Answer<typeof orderContract> =>
  answerOrder(tx, query, { source: caseSource(project.id), fields: caseFields })
