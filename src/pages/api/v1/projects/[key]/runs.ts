import { createRun as createRunContract, listRuns as listRunsContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { createRun, listRuns } from '#server/runs/keep-runs.ts'

export const GET = route(listRunsContract, listRuns)
export const POST = route(createRunContract, createRun)
