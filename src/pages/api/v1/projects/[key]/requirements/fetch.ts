import { fetchRequirements as fetchRequirementsContract } from '#core/requirements/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { fetchRequirements } from '#server/requirements/outside.ts'

export const POST = openRoute(fetchRequirementsContract, fetchRequirements)
