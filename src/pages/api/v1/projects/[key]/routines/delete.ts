import { deleteRoutines as deleteRoutinesContract } from '#core/reuse/contract.ts'
import { route } from '#server/http/route.ts'
import { deleteRoutines } from '#server/reuse/keep-routines.ts'

export const POST = route(deleteRoutinesContract, deleteRoutines)
