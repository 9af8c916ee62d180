import { cutRoutine as cutRoutineContract } from '#core/reuse/contract.ts'
import { route } from '#server/http/route.ts'
import { cutRoutine } from '#server/reuse/keep-routines.ts'

export const POST = route(cutRoutineContract, cutRoutine)
