import { findAlike as findAlikeContract } from '#core/reuse/repeat-contract.ts'
import { openRoute } from '#server/http/route.ts'
import { findAlike } from '#server/reuse/find-repeats.ts'

export const GET = openRoute(findAlikeContract, findAlike)
