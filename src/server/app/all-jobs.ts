import type { Db } from '#db/open.ts'
import { fileJobs } from '#server/formats/do-file-jobs.ts'
import { reportJobs } from '#server/reports/report-jobs.ts'
import { suiteJobs } from '#server/plans/suite-jobs.ts'
import { runJobs } from '#server/runs/run-jobs.ts'
import { repeatJobs } from '#server/reuse/repeat-jobs.ts'
import { designJobs } from '#server/techniques/design-jobs.ts'
import { minutesJobs } from '#server/schedule/renew-minutes.ts'
import { solvingJobs } from '#server/schedule/solve.ts'
import { type Jobs, runnerOf } from '#server/workers/job.ts'

/** Every long read, over one connection; `now` is what the time is told by. */
export const allJobs = (db: Db, now: () => number = Date.now) =>
  runnerOf([
    ...reportJobs(db, now),
    ...repeatJobs(db),
    ...designJobs(db),
    ...fileJobs(db),
    ...suiteJobs(db),
    ...runJobs(db),
    ...minutesJobs(db),
    ...solvingJobs(),
  ])

/** The same in this thread, for tests. */
export function inlineJobs(db: Db, now: () => number = Date.now): Jobs {
  const run = allJobs(db, now)
  return { run: (job, question) => Promise.resolve(run(job, question)), close: async () => undefined }
}
