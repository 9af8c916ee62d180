import { updateBuild as updateBuildContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { updateBuild } from '#server/projects/set-up-project.ts'

export const PATCH = route(updateBuildContract, updateBuild)
