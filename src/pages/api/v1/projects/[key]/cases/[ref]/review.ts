import { reviewCase as reviewCaseContract } from '#core/review/contract.ts'
import { route } from '#server/http/route.ts'
import { reviewCase } from '#server/review/review-case.ts'

export const POST = route(reviewCaseContract, reviewCase)
