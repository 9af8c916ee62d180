import { decideRows as decideRowsContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { decideRows } from '#server/techniques/accept-rows.ts'

export const POST = route(decideRowsContract, decideRows)
