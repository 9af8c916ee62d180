import { readSuite as readSuiteContract, updateSuite as updateSuiteContract } from '#core/plans/contract.ts'
import { route } from '#server/http/route.ts'
import { readSuite, updateSuite } from '#server/plans/keep-suites.ts'

export const GET = route(readSuiteContract, readSuite)
export const PATCH = route(updateSuiteContract, updateSuite)
