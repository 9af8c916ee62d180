import { storeRoutine as storeRoutineContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { storeRoutine } from '#server/cases/keep-routines.ts'

export const PUT = route(storeRoutineContract, storeRoutine)
