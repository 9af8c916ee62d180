import { numberIn } from '#core/lib/key.ts'
import type { readDesigned as contract } from '#core/techniques/contract.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { designedJob } from '#server/workers/questions.ts'

export async function readDesigned(
  { services, project }: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const all = [
    ...(await services.jobs.run(designedJob, {
      projectId: project.id,
      number: query.ref === undefined ? null : numberIn('requirement', query.ref),
    })),
  ]
  const rows = all.slice(query.cursor, query.cursor + query.limit)
  const next = query.cursor + rows.length
  return {
    rows,
    targets: all.reduce((sum, { targets }) => sum + targets, 0),
    answered: all.reduce((sum, { answered }) => sum + answered, 0),
    total: all.length,
    next: next < all.length ? next : null,
  }
}
