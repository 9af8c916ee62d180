import { readRoutine as readRoutineContract, updateRoutine as updateRoutineContract } from '#core/reuse/contract.ts'
import { route } from '#server/http/route.ts'
import { readRoutine, updateRoutine } from '#server/reuse/keep-routines.ts'

export const GET = route(readRoutineContract, readRoutine)
export const PATCH = route(updateRoutineContract, updateRoutine)
