import * as contract from '#core/reports/contract.ts'
import { onOpen, type Route } from '#server/http/route.ts'
import { coverageCsv, readBoard, readCoverage, readGaps, readStale } from './answer-reports.ts'

/** What may be asked of this area, each endpoint once. */
export const reportRoutes: readonly Route[] = [
  onOpen(contract.readCoverage, readCoverage),
  onOpen(contract.coverageCsv, coverageCsv),
  onOpen(contract.readGaps, readGaps),
  onOpen(contract.readStale, readStale),
  onOpen(contract.readBoard, readBoard),
]
