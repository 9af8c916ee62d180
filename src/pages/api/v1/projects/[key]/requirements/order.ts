import { orderRequirements as orderRequirementsContract } from '#core/requirements/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { orderRequirements } from '#server/requirements/list-requirements.ts'

export const GET = openRoute(orderRequirementsContract, orderRequirements)
