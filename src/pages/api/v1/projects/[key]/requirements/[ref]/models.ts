import { createModel as createModelContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { createModel } from '#server/techniques/keep-models.ts'

export const POST = route(createModelContract, createModel)
