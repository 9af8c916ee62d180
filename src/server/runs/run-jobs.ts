import { attemptFields } from '#core/finding/fields.ts'
import type { Db } from '#db/open.ts'
import { attemptSource } from '#db/runs/attempt-list.ts'
import { knowingOf } from '#db/runs/knowing.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import { attemptOrderJob, attemptsJob, knowingJob } from '#server/workers/questions.ts'

export const runJobs = (db: Db): readonly Doing[] => [
  doing(knowingJob, ({ projectId, ...of }) => knowingOf(db, projectId, of)),
  doing(attemptsJob, ({ projectId, query, now }) => {
    const source = attemptSource(projectId, now)
    const { rows, ...page } = answerPage(db, query, { source, fields: attemptFields, rows: (ids) => [...ids] })
    return { ids: rows, ...page }
  }),
  doing(attemptOrderJob, ({ projectId, query, now }) =>
    answerOrder(db, query, { source: attemptSource(projectId, now), fields: attemptFields }),
  ),
]
