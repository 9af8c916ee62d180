import { deleteCases as deleteCasesContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { deleteCases } from '#server/cases/delete-cases.ts'

export const POST = route(deleteCasesContract, deleteCases)
