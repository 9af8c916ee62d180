import { setPriority } from 'node:os'
import { workerData } from 'node:worker_threads'
import { z } from 'zod'
import { openDatabase } from '#db/open.ts'
import type { Job } from '#server/workers/job.ts'
import { allJobs } from './all-jobs.ts'

// Figures wait for verdicts, not verdicts for figures. Only on Linux a priority is the thread's own; elsewhere it would be the whole process's.
if (process.platform === 'linux') setPriority(10)
const { database } = z.object({ database: z.string() }).parse(workerData)
const run = allJobs(openDatabase(database, { readonly: true }))

/** Runs one job; the pool's only entry. */
export default function runJob({ job, question }: { job: Job<unknown, unknown>; question: unknown }): unknown {
  return run(job, question)
}
