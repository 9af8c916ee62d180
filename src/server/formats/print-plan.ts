import { strToU8 } from 'fflate'
import { keyOf } from '#core/lib/key.ts'
import { markdownOf, type Paper } from '#core/lib/paper.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { planPaper, versionPaper } from '#core/plans/plan-paper.ts'
import type { printPlan as contract } from '#core/plans/versions-contract.ts'
import type { Input, OpenContext } from '#server/http/route.ts'
import { readCriteria } from '#server/plans/evaluate-criteria.ts'
import { readPlan } from '#server/plans/keep-plans.ts'
import { listPlanVersions, readPlanVersion } from '#server/plans/keep-versions.ts'
import { readPrice } from '#server/plans/read-asks.ts'
import { fileAnswer } from './file-answer.ts'
import { paperJob } from './file-jobs.ts'
import { fileKinds } from './file-kinds.ts'

/** A plan, or a version of it, as a file to be read away from here. */
export async function printPlan(context: OpenContext, { params, query }: Input<typeof contract>): Promise<Response> {
  const paper = await paperOf(context, params, query.version)
  const name = `${keyOf('plan', params.ref)}${query.version === undefined ? '' : `-version-${query.version}`}`
  const { project, now, services } = context
  const { mime, ending } = fileKinds[query.as]
  const bytes =
    query.as === 'markdown'
      ? strToU8(markdownOf(paper))
      : await services.jobs.run(paperJob, { paper, now, timeZone: project.timeZone }, context.request.signal)
  context.store((inside) =>
    inside.secure({ kind: 'export', told: `${name} of ${project.key} was printed as ${query.as}` }),
  )
  return fileAnswer(Uint8Array.from(bytes), { name: `${name}.${ending}`, mime })
}

async function paperOf(
  context: OpenContext,
  params: Input<typeof contract>['params'],
  version: number | undefined,
): Promise<Paper> {
  const plan = readPlan(context, { params, query: undefined, body: undefined })
  const moments = new Intl.DateTimeFormat('en-GB', {
    timeZone: context.project.timeZone,
    dateStyle: 'medium',
    timeStyle: 'short',
  })
  const moment = (at: number): string => moments.format(at)
  if (version !== undefined) {
    const own = readPlanVersion(context, { params: { ...params, version }, query: {}, body: undefined })
    return versionPaper({ plan, version: own, moment })
  }
  const [criteria, price] = await Promise.all([
    orNothing(readCriteria(context, { params, query: {}, body: undefined })),
    orNothing(readPrice(context, { params, query: { about: 'plan', id: 0 }, body: undefined })),
  ])
  const { rows: versions } = listPlanVersions(context, { params, query: { limit: 100 }, body: undefined })
  return planPaper({ plan, criteria, price, versions, moment })
}

/** Nothing where it cannot be told, as where the release of the plan is gone; the rest is printed all the same. */
async function orNothing<T>(asked: Promise<T>): Promise<T | null> {
  try {
    return await asked
  } catch (error) {
    if (error instanceof Refusal) return null
    throw error
  }
}
