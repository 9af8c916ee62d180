import { readDesk as readDeskContract } from '#core/runs/contract.ts'
import { route } from '#server/http/route.ts'
import { readDesk } from '#server/runs/read-desk.ts'

export const GET = route(readDeskContract, readDesk)
