import { createEnvironment as createEnvironmentContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { createEnvironment } from '#server/projects/set-up-project.ts'

export const POST = route(createEnvironmentContract, createEnvironment)
