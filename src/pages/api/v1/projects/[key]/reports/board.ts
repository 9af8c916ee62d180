import { readBoard as readBoardContract } from '#core/reports/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { readBoard } from '#server/reports/answer-reports.ts'

export const GET = openRoute(readBoardContract, readBoard)
