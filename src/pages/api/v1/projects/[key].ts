import { readProject as readProjectContract, updateProject as updateProjectContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { readProject } from '#server/projects/read-project.ts'
import { updateProject } from '#server/projects/update-project.ts'

export const GET = route(readProjectContract, readProject)
export const PATCH = route(updateProjectContract, updateProject)
