import { acceptRows as acceptRowsContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { acceptRows } from '#server/techniques/accept-rows.ts'

export const POST = route(acceptRowsContract, acceptRows)
