import { undoVerdict as undoVerdictContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { undoVerdict } from '#server/runs/record-verdict.ts'

export const POST = route(undoVerdictContract, undoVerdict)
