import { orderRoutines as orderRoutinesContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { orderRoutines } from '#server/cases/keep-routines.ts'

export const GET = route(orderRoutinesContract, orderRoutines)
