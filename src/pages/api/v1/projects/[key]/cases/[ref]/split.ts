import { splitCase as splitCaseContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { splitCase } from '#server/cases/copy-cases.ts'

export const POST = route(splitCaseContract, splitCase)
