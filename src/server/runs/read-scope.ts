import { keyOf } from '#core/lib/key.ts'
import type { readRunScope as contract } from '#core/runs/scope-contract.ts'
import { casesThen } from '#db/plans/stays.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { findRun } from '#db/runs/runs.ts'
import { casesEver, extentOf, itemsOfCases, namedCases, suitesOfRun, takenOut } from '#db/runs/scope.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { membersJob } from '#server/workers/questions.ts'

/** What the suites a run was made of gained and lost since, and what was taken out of it. */
export async function readRunScope(
  { tx, project, services }: OpenContext,
  { params }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const suites = suitesOfRun(tx, run.id)
  const { environments, items } = extentOf(tx, run.id)
  const ever = casesEver(tx, run.id)
  const now = new Set(
    suites.length === 0 ? [] : await services.jobs.run(membersJob, { projectId: project.id, suites, requirements: [] }),
  )
  const then = new Set(casesThen(tx, suites, run.createdAt ?? 0).map((each) => each.case))
  const names = namedCases(
    tx,
    [...now].filter((id) => !then.has(id) && !ever.has(id)),
  )
  const places = new Map(projectDetail(tx, project, 'viewer').environments.map(({ id, name }) => [id, name]))
  return {
    gained: [...names].flatMap(([id, of]) =>
      environments.map((environment) => ({ case: id, environment, ...of, place: places.get(environment) ?? '' })),
    ),
    lost: itemsOfCases(
      tx,
      run.id,
      [...then].filter((id) => !now.has(id)),
    ).map(({ begun, ...item }) => ({ ...item, begun: begun === 1 })),
    out: takenOut(tx, run.id),
    items,
  }
}
