import { weighWhatIf as contract } from '#core/schedule/what-if-contract.ts'
import { whatIfById } from '#db/schedule/what-if.ts'
import { found } from '#server/http/context.ts'
import { replyWith } from '#server/http/reply.ts'
import type { Input, OpenContext } from '#server/http/route.ts'
import { levelJob, levelModelJob, wayTextJob } from '#server/workers/questions.ts'
import { lineDrawn } from './read-line.ts'
import { runNamed } from './team-days.ts'

/** What a run comes to if it goes another way, or as it goes now. Nothing is stored. */
export async function weighWhatIf(context: OpenContext, { params, query }: Input<typeof contract>): Promise<Response> {
  const { tx, project, services } = context
  const run = runNamed(tx, project, params.ref)
  const way = query.id === undefined ? null : found(whatIfById(tx, query.id), 'the what-if')
  if (way && way.runId !== run.id) found(undefined, 'the what-if')
  const drawn = await lineDrawn(context, { of: { kind: 'run', ref: params.ref, changes: way?.changes ?? null } })
  const told = await services.jobs.run(levelJob, await services.jobs.run(levelModelJob, { ...drawn, above: true }))
  return replyWith(contract, await services.jobs.run(wayTextJob, { ...drawn, told }))
}
