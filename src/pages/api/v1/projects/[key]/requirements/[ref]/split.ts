import { splitRequirement as splitRequirementContract } from '#core/requirements/contract.ts'
import { route } from '#server/http/route.ts'
import { splitRequirement } from '#server/requirements/split-merge.ts'

export const POST = route(splitRequirementContract, splitRequirement)
