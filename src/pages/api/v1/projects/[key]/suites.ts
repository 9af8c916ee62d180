import { createSuite as createSuiteContract, listSuites as listSuitesContract } from '#core/plans/contract.ts'
import { route } from '#server/http/route.ts'
import { createSuite, listSuites } from '#server/plans/keep-suites.ts'

export const GET = route(listSuitesContract, listSuites)
export const POST = route(createSuiteContract, createSuite)
