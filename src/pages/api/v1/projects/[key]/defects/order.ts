import { orderDefects as orderDefectsContract } from '#core/defects/contract.ts'
import { route } from '#server/http/route.ts'
import { orderDefects } from '#server/defects/keep-defects.ts'

export const GET = route(orderDefectsContract, orderDefects)
