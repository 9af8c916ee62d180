import { commentStep as commentStepContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { commentStep } from '#server/runs/note-step.ts'

export const PUT = route(commentStepContract, commentStep)
