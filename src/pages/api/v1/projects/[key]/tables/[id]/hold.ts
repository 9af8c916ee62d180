import { holdRow as holdRowContract } from '#core/reuse/table-contract.ts'
import { route } from '#server/http/route.ts'
import { holdRow } from '#server/reuse/keep-tables.ts'

export const POST = route(holdRowContract, holdRow)
