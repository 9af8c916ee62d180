import { restoreModel as restoreModelContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { restoreModel } from '#server/techniques/keep-models.ts'

export const POST = route(restoreModelContract, restoreModel)
