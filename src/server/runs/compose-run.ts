import { numberIn } from '#core/lib/key.ts'
import { composeFields } from '#core/finding/fields.ts'
import type { Project } from '#core/projects/contract.ts'
import type { Scope } from '#core/projects/scope.ts'
import type { composeItems as itemsContract, composeRun as contract } from '#core/runs/compose-contract.ts'
import { whyAgain } from '#core/runs/compose.ts'
import { type DefectState, awaitsRepair, isRepaired } from '#core/defects/state.ts'
import { ownFieldsOf } from '#db/cases/ask.ts'
import { findPlan } from '#db/plans/plans.ts'
import { namesOf } from '#db/plans/sources.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { rewordedFor } from '#db/requirements/requirements.ts'
import { defectsOfAttempts } from '#db/runs/attempts.ts'
import { findRun } from '#db/runs/runs.ts'
import { filterAsked } from '#server/finding/list-question.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { composeItemsJob, composeJob, type ComposedUnit, type ComposeQuestion } from '#server/workers/questions.ts'

type Query = Input<typeof itemsContract>['query']
const day = 86_400_000

/** Out of the runs and the plan that are named, judged on the build of the run that is made. */
function questionOf({ tx, project, now }: OpenContext, detail: Project, query: Query): ComposeQuestion {
  const build = found(
    detail.builds.find(({ id }) => id === query.build),
    'That build',
  )
  const scopeFor = (releaseId: number, own: typeof build | null): Scope => ({
    release: detail.releases.find(({ id }) => id === releaseId) ?? null,
    iteration: null,
    build: own,
    environment: null,
    asOf: null,
  })
  const runs = (query.runs ?? []).map((key) => found(findRun(tx, project.id, numberIn('run', key)), key))
  const plan =
    query.plan === undefined ? null : found(findPlan(tx, project.id, numberIn('plan', query.plan)), query.plan)
  const others = new Set(runs.map(({ releaseId }) => releaseId).filter((id) => id !== build.release))
  return {
    projectId: project.id,
    scope: scopeFor(build.release, build),
    runs: runs.map(({ id }) => id),
    plan: plan?.id ?? null,
    others: [...others].map((id) => scopeFor(id, null)),
    reasons: query.reasons ?? [],
    words: query.words ?? '',
    filter: filterAsked(query.filter, composeFields(ownFieldsOf(tx, project.id))),
    now,
  }
}

/** What would be executed again, by its reasons. */
export async function composeRun(
  context: OpenContext,
  { query: { cursor, limit, ...query } }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const detail = projectDetail(context.tx, context.project, 'viewer')
  const question = { ...questionOf(context, detail, query), cursor, limit }
  const { rows, ...told } = await context.services.jobs.run(composeJob, question)
  const end = cursor + rows.length
  return {
    ...told,
    counts: { ...told.counts },
    rows: inWords(context, detail, rows),
    next: end < told.total ? end : null,
  }
}

function inWords(
  { tx, now }: OpenContext,
  detail: Project,
  rows: readonly ComposedUnit[],
): Answer<typeof contract>['rows'] {
  const ids = rows.map((row) => row.case)
  const cases = namesOf(tx, 'case', ids)
  const reworded = rewordedFor(tx, ids)
  const defects = defectsOfAttempts(
    tx,
    rows.flatMap(({ attempt }) => attempt ?? []),
  )
  const environments = new Map(detail.environments.map(({ id, name, isAny }) => [id, isAny ? 'any' : name]))
  return rows.map(({ laterBuilds, touchedBy, ...row }) => {
    const own = defects.get(row.attempt ?? 0) ?? []
    const keys = (holds: (state: DefectState) => boolean) =>
      own.filter(({ state }) => holds(state)).map(({ key }) => key)
    const told = { ...row, laterBuilds, touchedBy, days: Math.floor((now - (row.at ?? now)) / day) }
    return {
      ...row,
      stale: row.stale.length > 0,
      reasons: [...row.reasons],
      key: cases.get(row.case)?.key ?? '',
      title: cases.get(row.case)?.title ?? '',
      environmentName: environments.get(row.environment) ?? '',
      why: whyAgain({
        ...told,
        open: keys(awaitsRepair),
        repaired: keys(isRepaired),
        reworded: reworded.get(row.case) ?? [],
      }),
    }
  })
}

export async function composeItems(
  context: OpenContext,
  { query }: Input<typeof itemsContract>,
): Promise<Answer<typeof itemsContract>> {
  const detail = projectDetail(context.tx, context.project, 'viewer')
  return context.services.jobs.run(composeItemsJob, questionOf(context, detail, query))
}
