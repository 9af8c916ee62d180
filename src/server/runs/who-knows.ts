import { knowledge } from '#core/runs/dealing.ts'
import type { OpenContext } from '#server/http/route.ts'
import { knowingJob } from '#server/workers/questions.ts'

/** How well somebody knows a case; 0: not at all. */
export type WhoKnows = (own: number, person: string) => number
export const knowsNothing: WhoKnows = () => 0

export async function whoKnows(
  { services, project }: Pick<OpenContext, 'services' | 'project'>,
  of: { readonly cases: readonly number[]; readonly people: readonly string[] },
): Promise<WhoKnows> {
  const told = await services.jobs.run(knowingJob, { projectId: project.id, ...of })
  const known = new Map(told.map((each) => [`${each.case}/${each.person}`, knowledge(each)]))
  return (own, person) => known.get(`${own}/${person}`) ?? 0
}
