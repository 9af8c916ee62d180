import { bulkCases as bulkCasesContract, listCases as listCasesContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { listCases } from '#server/cases/list-cases.ts'
import { bulkCases } from '#server/cases/update-case.ts'

export const GET = route(listCasesContract, listCases)
export const PATCH = route(bulkCasesContract, bulkCases)
