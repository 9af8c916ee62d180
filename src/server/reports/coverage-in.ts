import { Refusal } from '#core/lib/refusal.ts'
import { definedOf } from '#core/lib/defined.ts'
import type { CoverageAnswer } from '#core/reports/contract.ts'
import type { Db } from '#db/open.ts'
import type { ScopeQuery } from '#core/lib/shapes.ts'
import { findProject, type ProjectRow } from '#db/projects/projects.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { runnerOf } from '#server/workers/job.ts'
import { coverageJob } from '#server/workers/questions.ts'
import { reportJobs } from './report-jobs.ts'

/** A project and a scope in it by their names, as the command line says them. */
export interface ScopeNamed {
  readonly project: string
  readonly release?: string
  readonly iteration?: string
  readonly build?: string
  readonly environment?: string
  readonly asOf?: string
}

/** The project, and the scope as an address would say it; a refusal for what is not there. */
export function namedScope(db: Db, of: ScopeNamed): { readonly project: ProjectRow; readonly query: ScopeQuery } {
  const project = findProject(db, of.project)
  if (!project) throw new Refusal('not-found', `There is no project ${of.project} in this data directory.`)
  const asOf = of.asOf === undefined ? undefined : Date.parse(of.asOf)
  if (Number.isNaN(asOf))
    throw new Refusal('invalid', `--as-of ${of.asOf}: an instant looks like 2026-11-20T12:00:00Z.`)
  const { release, iteration, build, environment } = of
  return { project, query: definedOf({ release, iteration, build, environment, asOf }) }
}

/** Coverage as the command line asks for it. */
export function coverageIn(db: Db, of: ScopeNamed): CoverageAnswer {
  const { project, query } = namedScope(db, of)
  const scope = scopeOf(db, project, query)
  return runnerOf(reportJobs(db))(coverageJob, { projectId: project.id, scope, ids: 'all' })
}
