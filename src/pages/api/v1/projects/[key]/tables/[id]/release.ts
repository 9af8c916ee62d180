import { releaseRow as releaseRowContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { releaseRow } from '#server/cases/keep-tables.ts'

export const POST = route(releaseRowContract, releaseRow)
