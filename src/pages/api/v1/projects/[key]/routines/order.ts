import { orderRoutines as orderRoutinesContract } from '#core/reuse/contract.ts'
import { route } from '#server/http/route.ts'
import { orderRoutines } from '#server/reuse/keep-routines.ts'

export const GET = route(orderRoutinesContract, orderRoutines)
