import { listHistory as listHistoryContract } from '#core/people/contract.ts'
import { route } from '#server/http/route.ts'
import { listHistory } from '#server/people/list-history.ts'

export const GET = route(listHistoryContract, listHistory)
