import { createPlan as createPlanContract, listPlans as listPlansContract } from '#core/plans/contract.ts'
import { route } from '#server/http/route.ts'
import { createPlan, listPlans } from '#server/plans/keep-plans.ts'

export const GET = route(listPlansContract, listPlans)
export const POST = route(createPlanContract, createPlan)
