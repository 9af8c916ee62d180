import { readStale as readStaleContract } from '#core/reports/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { readStale } from '#server/reports/answer-reports.ts'

export const GET = openRoute(readStaleContract, readStale)
