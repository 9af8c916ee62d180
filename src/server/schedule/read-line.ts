import type { Contract } from '#core/lib/contract.ts'
import type {
  readLine as runContract,
  readOwnLine as ownContract,
  readPlanLine as planContract,
} from '#core/schedule/contract.ts'
import * as contracts from '#core/schedule/contract.ts'
import { replyWith } from '#server/http/reply.ts'
import type { Input, OpenContext } from '#server/http/route.ts'
import { askLineJob, lineJob, type LineDrawn, type LineOf, lineTextJob } from '#server/workers/questions.ts'

export const readLine = (context: OpenContext, { params, query }: Input<typeof runContract>): Promise<Response> =>
  lineText(context, contracts.readLine, { of: { kind: 'run', ref: params.ref, changes: null }, ...query })
export const readPlanLine = (context: OpenContext, { params, query }: Input<typeof planContract>): Promise<Response> =>
  lineText(context, contracts.readPlanLine, { of: { kind: 'plan', ref: params.ref }, ...query })
export const readOwnLine = (context: OpenContext, { query }: Input<typeof ownContract>): Promise<Response> =>
  lineText(context, contracts.readOwnLine, { of: { kind: 'day', person: context.person.id }, ...query })

interface Asked {
  readonly of: LineOf
  readonly minutes?: number | undefined
  /** What a plan of days rests on is told with it. */
  readonly basis?: boolean
}

/** What a line is drawn of is read on one thread, where it is drawn is solved on another; this one only carries text between them. */
export async function lineDrawn(
  { services, project }: OpenContext,
  { of, minutes, basis = false }: Asked,
): Promise<LineDrawn> {
  const question = { projectId: project.id, of, minutes: minutes ?? null, basis, now: services.now() }
  const { token, ...asked } = await services.jobs.run(askLineJob, question)
  return { ...question, token, line: await services.jobs.run(lineJob, asked) }
}

async function lineText(context: OpenContext, contract: Contract, asked: Asked): Promise<Response> {
  return replyWith(contract, await context.services.jobs.run(lineTextJob, await lineDrawn(context, asked)))
}
