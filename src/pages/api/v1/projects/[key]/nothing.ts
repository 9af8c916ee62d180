import { askNothing as askNothingContract, doNothing as doNothingContract } from '#core/installation/contract.ts'
import { route } from '#server/http/route.ts'
import { askNothing, doNothing } from '#server/installation/do-nothing.ts'

export const GET = route(askNothingContract, askNothing)
export const PUT = route(doNothingContract, doNothing)
