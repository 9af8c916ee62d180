import { compareCase as compareCaseContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { compareCase } from '#server/cases/compare-case.ts'

export const GET = route(compareCaseContract, compareCase)
