import { mergeCases as mergeCasesContract } from '#core/reuse/copy-contract.ts'
import { route } from '#server/http/route.ts'
import { mergeCases } from '#server/reuse/merge-cases.ts'

export const POST = route(mergeCasesContract, mergeCases)
