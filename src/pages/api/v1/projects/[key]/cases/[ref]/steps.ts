import { moveSteps as moveStepsContract } from '#core/reuse/copy-contract.ts'
import { route } from '#server/http/route.ts'
import { moveSteps } from '#server/reuse/copy-cases.ts'

export const POST = route(moveStepsContract, moveSteps)
