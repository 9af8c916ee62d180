import type { Served } from '#core/lib/question.ts'
import { type ScopeQuery, scopeQuery } from '#core/lib/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Me, Role } from '#core/people/contract.ts'
import type { Frame, Project } from '#core/projects/contract.ts'
import type { PersonRow } from '#db/people/people.ts'
import { findProject, type ProjectRow } from '#db/projects/projects.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { contextOf, type Context } from '#server/http/context.ts'
import { roleOf } from '#server/http/permission.ts'
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
}
/** What every page of a project starts from. */
export interface PageContext {
  readonly own: Services
  readonly row: ProjectRow
  readonly person: PersonRow
  readonly scope: ScopeQuery
  readonly context: Context
  readonly shell: ShellData
}

/** The frame's data for a page, or a refusal when the project is not there or not the person's. */
export async function pageContext(person: PersonRow | null, key: string, url: URL): Promise<PageContext> {
  const own = services()
  const row = findProject(own.db, key)
  const role: Role | null = row && person ? roleOf(own.db, row, { person, limit: null }) : null
  if (!row || !person || role === null)
    throw new Refusal('not-found', `There is no project ${key}, or you are not one of its people.`)
  const parsed = scopeQuery.safeParse(Object.fromEntries(url.searchParams))
  const scope = parsed.success ? parsed.data : {}
  const { context } = contextOf({ tx: own.db, now: own.now(), person, project: row, role, expected: 0, limit: null })
  const shell = {
    me: meOf(own.db, person),
    project: projectDetail(own.db, row, role),
    frame: { asked: { params: { key: row.key }, query: scope }, answer: await frameOf(own, row, person, scope) },
    path: url.pathname,
    search: url.search.slice(1),
  }
  return { own, row, person, scope, context, shell }
}
