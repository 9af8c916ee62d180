import { Refusal } from '#core/lib/refusal.ts'
import { definedOf } from '#core/lib/defined.ts'
import type { CoverageAnswer } from '#core/reports/contract.ts'
import type { Db } from '#db/open.ts'
import { findProject } from '#db/projects/projects.ts'
import { scopeOf } from '#server/projects/scope-of.ts'
import { runnerOf } from '#server/workers/job.ts'
import { coverageJob } from '#server/workers/questions.ts'
import { reportJobs } from './report-jobs.ts'

/** Coverage as the command line asks for it, with names. */
export function coverageIn(
  db: Db,
  of: { project: string; release?: string; iteration?: string; build?: string; environment?: string; asOf?: string },
): CoverageAnswer {
  const project = findProject(db, of.project)
  if (!project) throw new Refusal('not-found', `There is no project ${of.project} in this data directory.`)
  const asOf = of.asOf === undefined ? undefined : Date.parse(of.asOf)
  if (Number.isNaN(asOf))
    throw new Refusal('invalid', `--as-of ${of.asOf}: an instant looks like 2026-11-20T12:00:00Z.`)
  const scope = scopeOf(
    db,
    project,
    definedOf({ release: of.release, iteration: of.iteration, build: of.build, environment: of.environment, asOf }),
  )
  return runnerOf(reportJobs(db))(coverageJob, { projectId: project.id, scope, ids: 'all' })
}
