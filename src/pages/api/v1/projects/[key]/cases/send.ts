import { sendCases as sendCasesContract } from '#core/reuse/copy-contract.ts'
import { route } from '#server/http/route.ts'
import { sendCases } from '#server/reuse/copy-cases.ts'

export const POST = route(sendCasesContract, sendCases)
