import { deleteRoutines as deleteRoutinesContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { deleteRoutines } from '#server/cases/keep-routines.ts'

export const POST = route(deleteRoutinesContract, deleteRoutines)
