import { orderItems as orderItemsContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { orderItems } from '#server/runs/assign-items.ts'

export const GET = route(orderItemsContract, orderItems)
