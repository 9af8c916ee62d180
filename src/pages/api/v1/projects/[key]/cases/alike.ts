import { findAlike as findAlikeContract } from '#core/cases/routine-contract.ts'
import { openRoute } from '#server/http/route.ts'
import { findAlike } from '#server/cases/find-repeats.ts'

export const GET = openRoute(findAlikeContract, findAlike)
