import { mergeCases as mergeCasesContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { mergeCases } from '#server/cases/merge-cases.ts'

export const POST = route(mergeCasesContract, mergeCases)
