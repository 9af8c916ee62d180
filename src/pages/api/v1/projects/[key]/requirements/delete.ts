import { deleteRequirements as deleteRequirementsContract } from '#core/requirements/contract.ts'
import { route } from '#server/http/route.ts'
import { deleteRequirements } from '#server/requirements/delete-requirements.ts'

export const POST = route(deleteRequirementsContract, deleteRequirements)
