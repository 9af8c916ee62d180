import { readPlan as readPlanContract, updatePlan as updatePlanContract } from '#core/plans/contract.ts'
import { route } from '#server/http/route.ts'
import { readPlan, updatePlan } from '#server/plans/keep-plans.ts'

export const GET = route(readPlanContract, readPlan)
export const PATCH = route(updatePlanContract, updatePlan)
