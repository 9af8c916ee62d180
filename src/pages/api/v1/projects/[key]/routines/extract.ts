import { extractRoutine as extractRoutineContract } from '#core/reuse/contract.ts'
import { route } from '#server/http/route.ts'
import { extractRoutine } from '#server/reuse/extract-routine.ts'

export const POST = route(extractRoutineContract, extractRoutine)
