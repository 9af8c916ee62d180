import { clockAttempt as clockAttemptContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { clockAttempt } from '#server/runs/note-step.ts'

export const POST = route(clockAttemptContract, clockAttempt)
