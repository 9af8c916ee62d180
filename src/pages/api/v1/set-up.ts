import { setUpFirst as setUpFirstContract } from '#core/installation/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { setUpFirst } from '#server/installation/set-up-first.ts'

export const POST = openRoute(setUpFirstContract, setUpFirst)
