import { readMe as readMeContract } from '#core/people/contract.ts'
import { route } from '#server/http/route.ts'
import { readMe } from '#server/people/sign-in.ts'

export const GET = route(readMeContract, readMe)
