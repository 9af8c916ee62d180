import { extractRoutine as extractRoutineContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { extractRoutine } from '#server/cases/extract-routine.ts'

export const POST = route(extractRoutineContract, extractRoutine)
