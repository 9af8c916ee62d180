import { askNothing as askNothingContract, doNothing as doNothingContract } from '#core/people/contract.ts'
import { route } from '#server/http/route.ts'
import { askNothing, doNothing } from '#server/people/do-nothing.ts'

export const GET = route(askNothingContract, askNothing)
export const PUT = route(doNothingContract, doNothing)
