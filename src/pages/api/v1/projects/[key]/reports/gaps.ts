import { readGaps as readGapsContract } from '#core/reports/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { readGaps } from '#server/reports/answer-reports.ts'

export const GET = openRoute(readGapsContract, readGaps)
