import { orderSuites as orderSuitesContract } from '#core/plans/contract.ts'
import { route } from '#server/http/route.ts'
import { orderSuites } from '#server/plans/keep-suites.ts'

export const GET = route(orderSuitesContract, orderSuites)
