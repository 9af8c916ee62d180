import { readCoverage as readCoverageContract } from '#core/reports/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { readCoverage } from '#server/reports/answer-reports.ts'

export const GET = openRoute(readCoverageContract, readCoverage)
