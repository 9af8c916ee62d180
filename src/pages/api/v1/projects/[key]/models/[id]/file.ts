import { exportModel as exportModelContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { exportModel } from '#server/techniques/keep-models.ts'

export const GET = route(exportModelContract, exportModel)
