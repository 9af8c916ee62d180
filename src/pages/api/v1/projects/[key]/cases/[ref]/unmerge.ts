import { unmergeCase as unmergeCaseContract } from '#core/reuse/copy-contract.ts'
import { route } from '#server/http/route.ts'
import { unmergeCase } from '#server/reuse/merge-cases.ts'

export const POST = route(unmergeCaseContract, unmergeCase)
