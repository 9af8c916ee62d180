import { readToday as readTodayContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { readToday } from '#server/projects/read-today.ts'

export const GET = route(readTodayContract, readToday)
