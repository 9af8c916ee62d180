import type { readNextBest as contract } from '#core/schedule/contract.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { nextBestJob } from '#server/workers/questions.ts'

/** What is worth most for its minutes, of all that somebody may execute now. */
export const readNextBest = (
  { services, project, person }: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> =>
  services.jobs.run(nextBestJob, {
    projectId: project.id,
    person: person.id,
    not: query.not ?? null,
    now: services.now(),
  })
