import { deleteView as deleteViewContract } from '#core/finding/contract.ts'
import { route } from '#server/http/route.ts'
import { deleteView } from '#server/finding/keep-views.ts'

export const DELETE = route(deleteViewContract, deleteView)
