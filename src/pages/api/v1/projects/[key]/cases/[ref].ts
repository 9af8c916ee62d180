import { readCase as readCaseContract, updateCase as updateCaseContract } from '#core/cases/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { readCase } from '#server/cases/read-case.ts'
import { updateCase } from '#server/cases/update-case.ts'

export const GET = openRoute(readCaseContract, readCase)
export const PATCH = route(updateCaseContract, updateCase)
