import { recordWhole as recordWholeContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { recordWhole } from '#server/runs/record-verdict.ts'

export const PUT = route(recordWholeContract, recordWhole)
