import { recordStep as recordStepContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { recordStep } from '#server/runs/record-verdict.ts'

export const PUT = route(recordStepContract, recordStep)
