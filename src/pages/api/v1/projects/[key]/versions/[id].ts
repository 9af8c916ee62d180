import { readVersion as readVersionContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { readVersion } from '#server/cases/read-case.ts'

export const GET = route(readVersionContract, readVersion)
