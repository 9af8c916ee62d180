import { moveRequirement as moveRequirementContract } from '#core/requirements/contract.ts'
import { route } from '#server/http/route.ts'
import { moveRequirement } from '#server/requirements/move-requirement.ts'

export const POST = route(moveRequirementContract, moveRequirement)
