import { numberIn } from '#core/lib/key.ts'
import type {
  coverageCsv as csvContract,
  readBoard as boardContract,
  readCoverage as coverageContract,
  readGaps as gapsContract,
  readStale as staleContract,
} from '#core/reports/contract.ts'
import { findRequirement } from '#db/requirements/requirements.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { csvAnswer } from '#server/http/csv-text.ts'
import { coverageJob, gapsJob, staleJob, boardJob } from '#server/workers/questions.ts'

const scoped = ({ tx, project }: OpenContext, query: Parameters<typeof scopeOf>[2]) => ({
  projectId: project.id,
  scope: scopeOf(tx, project, query),
})

export const readCoverage = (
  context: OpenContext,
  { query }: Input<typeof coverageContract>,
): Promise<Answer<typeof coverageContract>> =>
  context.services.jobs.run(coverageJob, {
    ...scoped(context, query),
    ids: query.ids === undefined ? null : query.ids === 'all' ? 'all' : query.ids.split(',').map(Number),
  })

export const readGaps = (
  context: OpenContext,
  { query }: Input<typeof gapsContract>,
): Promise<Answer<typeof gapsContract>> => context.services.jobs.run(gapsJob, scoped(context, query))

export async function readStale(
  context: OpenContext,
  { query }: Input<typeof staleContract>,
): Promise<Answer<typeof staleContract>> {
  const requirement =
    query.requirement === undefined
      ? null
      : found(
          findRequirement(context.tx, context.project.id, numberIn('requirement', query.requirement)),
          query.requirement,
        ).id
  const answer = await context.services.jobs.run(staleJob, {
    ...scoped(context, query),
    requirement,
    cursor: query.cursor,
    limit: query.limit,
  })
  return {
    ...answer,
    next: query.cursor + answer.rows.length < answer.total ? query.cursor + answer.rows.length : null,
  }
}

export const readBoard = (
  context: OpenContext,
  { query }: Input<typeof boardContract>,
): Promise<Answer<typeof boardContract>> => context.services.jobs.run(boardJob, scoped(context, query))

const header = [
  'key',
  'title',
  'depth',
  'state',
  'risk',
  'risk given',
  'cases',
  'drafted',
  'slots',
  'passed',
  'failed',
  'blocked',
  'inconclusive',
  'not run',
  'passing as recorded',
  'passing current only',
  'passing confidence-weighted',
  'stale',
]

/** Coverage as CSV, a requirement a line. Shares are numbers between 0 and 1; empty where there is nothing to count. */
export async function coverageCsv(context: OpenContext, { query }: Input<typeof csvContract>): Promise<Response> {
  const answer = await context.services.jobs.run(coverageJob, { ...scoped(context, query), ids: 'all' })
  const rows = answer.nodes.map(({ key, title, depth, state, risk, riskGiven, figures: f }) => [
    key,
    title,
    depth,
    state,
    risk,
    riskGiven ? 'yes' : 'no',
    f.cases,
    f.drafted,
    f.slots,
    f.verdicts['Passed'] ?? 0,
    f.verdicts['Failed'] ?? 0,
    f.verdicts['Blocked'] ?? 0,
    f.verdicts['Inconclusive'] ?? 0,
    (f.verdicts['Not run'] ?? 0) + (f.verdicts['Skipped'] ?? 0),
    share(f.passing.plain.recorded),
    share(f.passing.plain.current),
    share(f.passing.plain.confident),
    Object.values(f.stale).reduce((sum, n) => sum + n, 0),
  ])
  return csvAnswer(`${context.project.key}-coverage`, [header, ...rows])
}

const share = (value: number | null): string => (value === null ? '' : value.toFixed(4))
