import { setPriority } from 'node:os'
import { workerData } from 'node:worker_threads'
import { z } from 'zod'
import { openDatabase } from '#db/open.ts'
import { allJobs, type JobAnswers, type JobQuestions } from './all-jobs.ts'

// Figures wait for verdicts, not verdicts for figures. Only on Linux a priority is the thread's own; elsewhere it would be the whole process's.
if (process.platform === 'linux') setPriority(10)
const { database } = z.object({ database: z.string() }).parse(workerData)
const jobs = allJobs(openDatabase(database, { readonly: true }))

/** Runs one job by its name; the pool's only entry. */
export default function job<K extends keyof JobQuestions>(of: { name: K; question: JobQuestions[K] }): JobAnswers[K] {
  return jobs[of.name](of.question)
}
