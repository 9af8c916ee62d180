import { findSame as findSameContract } from '#core/reuse/repeat-contract.ts'
import { openRoute } from '#server/http/route.ts'
import { findSame } from '#server/reuse/find-repeats.ts'

export const GET = openRoute(findSameContract, findSame)
