import type { listMinutes as listContract, readSpent as spentContract } from '#core/schedule/minutes-contract.ts'
import { minutesRows, modelOf } from '#db/schedule/spent.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { spentJob } from '#server/workers/questions.ts'

const day = 86_400_000

export function listMinutes(
  { tx, project }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> {
  const { cursor, limit } = query
  const found = minutesRows(tx, project.id, { far: query.show === 'far', cursor, limit })
  const next = cursor + found.rows.length
  return { ...found, next: next < found.total ? next : null, model: modelOf(tx, project.id) }
}

export async function readSpent(
  { services, project, person }: OpenContext,
  { query }: Input<typeof spentContract>,
): Promise<Answer<typeof spentContract>> {
  const rows = await services.jobs.run(spentJob, {
    projectId: project.id,
    by: query.by,
    since: services.now() - query.days * day,
    personId: person.id,
  })
  return { rows: [...rows] }
}
