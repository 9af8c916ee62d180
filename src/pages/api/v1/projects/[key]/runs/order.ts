import { orderRuns as orderRunsContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { orderRuns } from '#server/runs/keep-runs.ts'

export const GET = route(orderRunsContract, orderRuns)
