import { fitMinutes, type Sample } from '#core/schedule/estimates.ts'
import type { Db, Tx } from '#db/open.ts'
import { projectIds } from '#db/projects/projects.ts'
import { anywhere, caseShapes, putLearned, putModel, type RenewedMinutes } from '#db/schedule/minutes.ts'
import { spentOf } from '#db/schedule/spent.ts'
import { inSlices } from '#server/http/going.ts'
import type { Services } from '#server/http/services.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import { calendarJob, minutesJob, spentJob } from '#server/workers/questions.ts'
import { readingOf } from './line-over.ts'
import { calendarOf } from './read-calendar.ts'
import { wrongMinutes } from './learn-minutes.ts'

/** What a project's attempts teach, against what is kept of it, and the regression over it. */
function renewedMinutes(tx: Tx, projectId: number): RenewedMinutes {
  const { wanted, changed } = wrongMinutes(tx, projectId)
  const shapes = new Map(caseShapes(tx, projectId).map((each) => [each.id, each]))
  const samples = [...wanted.values()].flatMap(({ caseId, environmentId, minutes, n }): Sample[] => {
    const shape = shapes.get(caseId)
    return shape && environmentId !== anywhere ? [{ ...shape, environment: environmentId, minutes, n }] : []
  })
  return { changed, model: fitMinutes(samples) }
}

/** The same at once, in the caller's transaction: for data that are made whole, such as the sample. */
export function learnNow(tx: Tx, at: number): void {
  for (const id of projectIds(tx)) {
    const { changed, model } = renewedMinutes(tx, id)
    for (const each of changed) putLearned(tx, each.at, each.to)
    putModel(tx, id, model, at)
  }
}

/** Once a day, and at the start: the regression is fitted anew, and what is kept is set right where it differs. */
export async function renewMinutes({ db, jobs, now }: Pick<Services, 'db' | 'jobs' | 'now'>): Promise<void> {
  for (const id of projectIds(db)) {
    const { changed, model } = await jobs.run(minutesJob, { projectId: id })
    await inSlices(
      changed.length,
      <T>(work: (tx: Tx) => T): T => db.transaction(work, { behavior: 'immediate' }),
      (tx, index) => {
        const each = changed[index]
        if (each) putLearned(tx, each.at, each.to)
      },
    )
    db.transaction((tx) => putModel(tx, id, model, now()), { behavior: 'immediate' })
  }
}

export const minutesJobs = (db: Db): readonly Doing[] => [
  // One read transaction, so that what is kept and what attempts say belong together.
  doing(minutesJob, ({ projectId }) => db.transaction((tx) => renewedMinutes(tx, projectId))),
  doing(calendarJob, (question) => JSON.stringify(calendarOf(readingOf(db, question), question))),
  doing(spentJob, ({ projectId, ...of }) => spentOf(db, projectId, of)),
]
