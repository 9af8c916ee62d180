import { assignItems as assignItemsContract, listItems as listItemsContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { assignItems, listItems } from '#server/runs/assign-items.ts'

export const GET = route(listItemsContract, listItems)
export const PATCH = route(assignItemsContract, assignItems)
