import { releaseRow as releaseRowContract } from '#core/reuse/table-contract.ts'
import { route } from '#server/http/route.ts'
import { releaseRow } from '#server/reuse/keep-tables.ts'

export const POST = route(releaseRowContract, releaseRow)
