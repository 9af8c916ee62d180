import {
  readRequirement as readRequirementContract,
  updateRequirement as updateRequirementContract,
} from '#core/requirements/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { readRequirement } from '#server/requirements/read-requirement.ts'
import { updateRequirement } from '#server/requirements/update-requirement.ts'

export const GET = openRoute(readRequirementContract, readRequirement)
export const PATCH = route(updateRequirementContract, updateRequirement)
