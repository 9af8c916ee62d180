import type { Frame, readFrame as contract } from '#core/projects/contract.ts'
import type { ScopeQuery } from '#core/lib/shapes.ts'
import { lastChange } from '#db/history/changes.ts'
import { type PersonRow } from '#db/people/people.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import { attentionCounts } from '#db/reports/counts.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Services } from '#server/http/services.ts'
import { tallyFor } from '#server/plans/evaluate-criteria.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { meterJob } from '#server/workers/questions.ts'

export const readFrame = (
  { services, project, person }: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> => frameOf(services, project, person, query)

/** What each page shows round its work: counts of what wants attention, and the meter of the scope. */
export async function frameOf(
  services: Services,
  project: ProjectRow,
  person: PersonRow,
  query: ScopeQuery,
): Promise<Frame> {
  const scope = scopeOf(services.db, project, query)
  const { meter, uncovered } = await services.jobs.run(meterJob, { projectId: project.id, scope })
  const counts = attentionCounts(services.db, project.id, person.id)
  const criteria = await tallyFor(services, project, scope)
  const reports = criteria ? criteria.of - criteria.met - criteria.waived : 0
  return {
    counts: { requirements: uncovered, ...counts, reports },
    meter,
    criteria,
    lastChange: lastChange(services.db, project.id),
  }
}
