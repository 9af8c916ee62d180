import { createRelease as createReleaseContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { createRelease } from '#server/projects/set-up-project.ts'

export const POST = route(createReleaseContract, createRelease)
