import { findSame as findSameContract } from '#core/cases/routine-contract.ts'
import { openRoute } from '#server/http/route.ts'
import { findSame } from '#server/cases/find-repeats.ts'

export const GET = openRoute(findSameContract, findSame)
