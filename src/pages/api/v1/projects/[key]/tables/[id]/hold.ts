import { holdRow as holdRowContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { holdRow } from '#server/cases/keep-tables.ts'

export const POST = route(holdRowContract, holdRow)
