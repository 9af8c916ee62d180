import { mergeRequirements as mergeRequirementsContract } from '#core/requirements/contract.ts'
import { route } from '#server/http/route.ts'
import { mergeRequirements } from '#server/requirements/split-merge.ts'

export const POST = route(mergeRequirementsContract, mergeRequirements)
