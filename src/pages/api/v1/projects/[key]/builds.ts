import { createBuild as createBuildContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { createBuild } from '#server/projects/set-up-project.ts'

export const POST = route(createBuildContract, createBuild)
