import { bulkCases as bulkCasesContract, listCases as listCasesContract } from '#core/cases/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { listCases } from '#server/cases/list-cases.ts'
import { bulkCases } from '#server/cases/update-case.ts'

export const GET = openRoute(listCasesContract, listCases)
export const PATCH = route(bulkCasesContract, bulkCases)
