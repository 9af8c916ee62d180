import { findRepeats as findRepeatsContract } from '#core/reuse/repeat-contract.ts'
import { openRoute } from '#server/http/route.ts'
import { findRepeats } from '#server/reuse/find-repeats.ts'

export const GET = openRoute(findRepeatsContract, findRepeats)
