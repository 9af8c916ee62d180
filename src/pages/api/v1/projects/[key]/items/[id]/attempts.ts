import { startAttempt as startAttemptContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { startAttempt } from '#server/runs/start-attempt.ts'

export const POST = route(startAttemptContract, startAttempt)
