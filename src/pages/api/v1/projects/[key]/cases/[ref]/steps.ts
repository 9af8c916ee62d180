import { moveSteps as moveStepsContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { moveSteps } from '#server/cases/copy-cases.ts'

export const POST = route(moveStepsContract, moveSteps)
