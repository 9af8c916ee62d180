import { readProject as readProjectContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { readProject } from '#server/projects/read-project.ts'

export const GET = route(readProjectContract, readProject)
