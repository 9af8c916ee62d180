import { fitMinutes, type Sample } from '#core/schedule/estimates.ts'
import type { Db, Tx } from '#db/open.ts'
import { projectIds } from '#db/projects/projects.ts'
import { anywhere, caseShapes, putLearned, putModel, type RenewedMinutes } from '#db/schedule/minutes.ts'
import { spentOf } from '#db/schedule/spent.ts'
import { inSlices } from '#server/http/going.ts'
import type { Services } from '#server/http/services.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import { minutesJob, spentJob } from '#server/workers/questions.ts'
import { wrongMinutes } from './learn-minutes.ts'

/** What a project's attempts teach, against what is kept of it, and the regression over it. */
function renewedMinutes(db: Db, projectId: number): RenewedMinutes {
  return db.transaction((tx) => {
    const { wanted, changed } = wrongMinutes(tx, projectId)
    const shapes = new Map(caseShapes(tx, projectId).map((each) => [each.id, each]))
    const samples = [...wanted.values()].flatMap(({ caseId, environmentId, minutes, n }): Sample[] => {
      const shape = shapes.get(caseId)
      return shape && environmentId !== anywhere ? [{ ...shape, environment: environmentId, minutes, n }] : []
    })
    return { changed, model: fitMinutes(samples) }
  })
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
  doing(minutesJob, ({ projectId }) => renewedMinutes(db, projectId)),
  doing(spentJob, ({ projectId, ...of }) => spentOf(db, projectId, of)),
]
