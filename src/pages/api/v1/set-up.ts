import { setUpFirst as setUpFirstContract } from '#core/people/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { setUpFirst } from '#server/people/set-up-first.ts'

export const POST = openRoute(setUpFirstContract, setUpFirst)
