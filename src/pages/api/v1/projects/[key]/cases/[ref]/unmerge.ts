import { unmergeCase as unmergeCaseContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { unmergeCase } from '#server/cases/merge-cases.ts'

export const POST = route(unmergeCaseContract, unmergeCase)
