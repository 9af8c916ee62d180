import { findRepeats as findRepeatsContract } from '#core/cases/routine-contract.ts'
import { openRoute } from '#server/http/route.ts'
import { findRepeats } from '#server/cases/find-repeats.ts'

export const GET = openRoute(findRepeatsContract, findRepeats)
