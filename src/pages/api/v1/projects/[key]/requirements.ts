import {
  bulkRequirements as bulkRequirementsContract,
  listRequirements as listRequirementsContract,
} from '#core/requirements/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { listRequirements } from '#server/requirements/list-requirements.ts'
import { bulkRequirements } from '#server/requirements/update-requirement.ts'

export const GET = openRoute(listRequirementsContract, listRequirements)
export const PATCH = route(bulkRequirementsContract, bulkRequirements)
