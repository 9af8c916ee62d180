import { listStanding as listStandingContract, keepStanding as keepStandingContract } from '#core/formats/contract.ts'
import { route } from '#server/http/route.ts'
import { listStanding, keepStanding } from '#server/formats/standing-imports.ts'

export const GET = route(listStandingContract, listStanding)
export const POST = route(keepStandingContract, keepStanding)
