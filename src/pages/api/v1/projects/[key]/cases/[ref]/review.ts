import { reviewCase as reviewCaseContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { reviewCase } from '#server/cases/review-case.ts'

export const POST = route(reviewCaseContract, reviewCase)
