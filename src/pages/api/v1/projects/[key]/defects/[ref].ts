import { readDefect as readDefectContract, updateDefect as updateDefectContract } from '#core/defects/contract.ts'
import { route } from '#server/http/route.ts'
import { readDefect, updateDefect } from '#server/defects/keep-defects.ts'

export const GET = route(readDefectContract, readDefect)
export const PATCH = route(updateDefectContract, updateDefect)
