import { orderPlans as orderPlansContract } from '#core/plans/contract.ts'
import { route } from '#server/http/route.ts'
import { orderPlans } from '#server/plans/keep-plans.ts'

export const GET = route(orderPlansContract, orderPlans)
