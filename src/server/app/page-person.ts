import { findProject } from '#db/projects/projects.ts'
import { stillIn } from '#server/http/answer.ts'
import { type Asker, factorAskedBy, lacksFactor } from '#server/http/permission.ts'
import { services } from './services.ts'

/** Who asks for a page. */
export const pageAsker = (request: Request): Promise<Asker | null> => stillIn(services(), request)

/** Whether somebody has to set a second factor up before this page: the project or the installation asks for one. */
export function wantsFactorFirst(asker: Asker, { pathname }: URL): boolean {
  if (!lacksFactor(asker)) return false
  const { db } = services()
  const key = /^\/p\/(\w+)/.exec(pathname)?.[1]
  return key !== undefined && factorAskedBy(db, findProject(db, key)) !== null
}
