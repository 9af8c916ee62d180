import { cutRoutine as cutRoutineContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { cutRoutine } from '#server/cases/keep-routines.ts'

export const POST = route(cutRoutineContract, cutRoutine)
