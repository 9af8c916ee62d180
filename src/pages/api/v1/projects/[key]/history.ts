import { listHistory as listHistoryContract } from '#core/history/contract.ts'
import { route } from '#server/http/route.ts'
import { listHistory } from '#server/history/list-history.ts'

export const GET = route(listHistoryContract, listHistory)
