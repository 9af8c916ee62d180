import { updateModel as updateModelContract, deleteModel as deleteModelContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { updateModel, deleteModel } from '#server/techniques/keep-models.ts'

export const PATCH = route(updateModelContract, updateModel)
export const DELETE = route(deleteModelContract, deleteModel)
