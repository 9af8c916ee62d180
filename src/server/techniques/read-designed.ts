import type { readDesigned as contract } from '#core/techniques/contract.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export async function readDesigned({ services, project }: OpenContext, { query }: Input<typeof contract>): Promise<Answer<typeof contract>> {
  const rows = [...(await services.jobs.run('designed', { projectId: project.id, number: query.ref === undefined ? null : Number(/^RQ-(\d+)$/.exec(query.ref)?.[1] ?? 0) }))]
  return { rows, targets: rows.reduce((sum, { targets }) => sum + targets, 0), answered: rows.reduce((sum, { answered }) => sum + answered, 0) }
}
