import type { readProject as contract } from '#core/projects/contract.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer } from '#server/http/route.ts'

export const readProject = ({ tx, project, role }: Context): Answer<typeof contract> => projectDetail(tx, project, role)
