import { orderCases as orderCasesContract } from '#core/cases/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { orderCases } from '#server/cases/list-cases.ts'

export const GET = openRoute(orderCasesContract, orderCases)
