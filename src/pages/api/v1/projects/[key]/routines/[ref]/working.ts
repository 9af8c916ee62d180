import { storeRoutine as storeRoutineContract } from '#core/reuse/contract.ts'
import { route } from '#server/http/route.ts'
import { storeRoutine } from '#server/reuse/keep-routines.ts'

export const PUT = route(storeRoutineContract, storeRoutine)
