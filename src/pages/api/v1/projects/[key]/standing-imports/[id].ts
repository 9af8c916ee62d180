import { runStanding as runStandingContract, dropStanding as dropStandingContract } from '#core/formats/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { runStanding, dropStanding } from '#server/formats/standing-imports.ts'

export const POST = openRoute(runStandingContract, runStanding)
export const DELETE = route(dropStandingContract, dropStanding)
