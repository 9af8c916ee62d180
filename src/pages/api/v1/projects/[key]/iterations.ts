import { createIteration as createIterationContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { createIteration } from '#server/projects/set-up-project.ts'

export const POST = route(createIterationContract, createIteration)
