import { coverageCsv as coverageCsvContract } from '#core/reports/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { coverageCsv } from '#server/reports/answer-reports.ts'

export const GET = openRoute(coverageCsvContract, coverageCsv)
