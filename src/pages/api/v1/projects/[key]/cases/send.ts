import { sendCases as sendCasesContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { sendCases } from '#server/cases/copy-cases.ts'

export const POST = route(sendCasesContract, sendCases)
