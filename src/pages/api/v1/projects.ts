import { createProject as createProjectContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { createProject } from '#server/projects/set-up-project.ts'

export const POST = route(createProjectContract, createProject)
