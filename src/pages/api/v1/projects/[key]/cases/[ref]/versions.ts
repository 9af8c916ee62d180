import { cutVersion as cutVersionContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { cutVersion } from '#server/cases/cut-version.ts'

export const POST = route(cutVersionContract, cutVersion)
