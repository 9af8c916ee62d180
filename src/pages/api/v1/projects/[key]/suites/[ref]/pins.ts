import { pinCases as pinCasesContract } from '#core/plans/contract.ts'
import { route } from '#server/http/route.ts'
import { pinCases } from '#server/plans/keep-suites.ts'

export const POST = route(pinCasesContract, pinCases)
