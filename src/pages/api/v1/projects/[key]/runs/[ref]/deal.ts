import { dealItems as dealItemsContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { dealItems } from '#server/runs/assign-items.ts'

export const POST = route(dealItemsContract, dealItems)
