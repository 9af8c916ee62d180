import { splitCase as splitCaseContract } from '#core/reuse/copy-contract.ts'
import { route } from '#server/http/route.ts'
import { splitCase } from '#server/reuse/copy-cases.ts'

export const POST = route(splitCaseContract, splitCase)
