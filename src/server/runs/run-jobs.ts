import type { Db } from '#db/open.ts'
import { knowingOf } from '#db/runs/knowing.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import { knowingJob } from '#server/workers/questions.ts'

export const runJobs = (db: Db): readonly Doing[] => [
  doing(knowingJob, ({ projectId, ...of }) => knowingOf(db, projectId, of)),
]
