import { deleteDefects as deleteDefectsContract } from '#core/defects/contract.ts'
import { route } from '#server/http/route.ts'
import { deleteDefects } from '#server/defects/keep-defects.ts'

export const POST = route(deleteDefectsContract, deleteDefects)
