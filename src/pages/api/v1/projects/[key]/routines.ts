import { listRoutines as listRoutinesContract, createRoutine as createRoutineContract } from '#core/reuse/contract.ts'
import { route } from '#server/http/route.ts'
import { listRoutines, createRoutine } from '#server/reuse/keep-routines.ts'

export const GET = route(listRoutinesContract, listRoutines)
export const POST = route(createRoutineContract, createRoutine)
