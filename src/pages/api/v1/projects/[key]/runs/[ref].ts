import { readRun as readRunContract, updateRun as updateRunContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { readRun, updateRun } from '#server/runs/keep-runs.ts'

export const GET = route(readRunContract, readRun)
export const PATCH = route(updateRunContract, updateRun)
