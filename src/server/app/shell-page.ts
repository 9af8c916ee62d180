import type { Served } from '#core/lib/question.ts'
import { type ScopeQuery, scopeQuery } from '#core/lib/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Role } from '#core/lib/rights.ts'
import type { Me } from '#core/people/contract.ts'
import type { Frame, Project } from '#core/projects/contract.ts'
import type { PersonRow } from '#db/people/people.ts'
import { findProject, type ProjectRow } from '#db/projects/projects.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { contextOf, type Context } from '#server/http/context.ts'
import { type Asker, roleOf } from '#server/http/permission.ts'
import type { Services } from '#server/http/services.ts'
import { services } from './services.ts'
import { meOf } from '#server/people/sign-in.ts'
import { frameOf } from '#server/projects/read-frame.ts'

interface ShellData {
  readonly me: Me
  readonly project: Project
  readonly frame: Served<Frame>
  readonly path: string
  readonly search: string
  readonly at: number
}
/** What every page of a project starts from. */
export interface PageContext {
  readonly own: Services
  readonly row: ProjectRow
  readonly person: PersonRow
  readonly role: Role
  readonly scope: ScopeQuery
  readonly context: Context
  readonly shell: ShellData
}

/** The frame's data for a page, or a refusal when the project is not there or not the person's. */
export async function pageContext(asker: Asker | null, key: string, url: URL): Promise<PageContext> {
  const own = services()
  const row = findProject(own.db, key)
  const role: Role | null = row && asker ? roleOf(own.db, row, asker) : null
  if (!row || !asker || role === null)
    throw new Refusal('not-found', `There is no project ${key}, or you are not one of its people.`)
  const parsed = scopeQuery.safeParse(Object.fromEntries(url.searchParams))
  const scope = parsed.success ? parsed.data : {}
  const { person } = asker
  const { context } = contextOf({ ...asker, tx: own.db, now: own.now(), project: row, role, expected: 0 })
  const shell = {
    me: meOf(own.db, person),
    project: projectDetail(own.db, row, role),
    frame: { asked: { params: { key: row.key }, query: scope }, answer: await frameOf(own, row, person, scope) },
    path: url.pathname,
    search: url.search.slice(1),
    at: own.now(),
  }
  return { own, row, person, role, scope, context, shell }
}
