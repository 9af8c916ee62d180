import { restoreVersion as restoreVersionContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { restoreVersion } from '#server/cases/compare-case.ts'

export const POST = route(restoreVersionContract, restoreVersion)
