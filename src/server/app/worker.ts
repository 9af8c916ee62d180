import { setPriority } from 'node:os'
import { workerData } from 'node:worker_threads'
import { z } from 'zod'
import { Refusal } from '#core/lib/refusal.ts'
import { openDatabase } from '#db/open.ts'
import type { Job, Run } from '#server/workers/job.ts'
import { allJobs } from './all-jobs.ts'

// Figures wait for verdicts, not verdicts for figures. Only on Linux a priority is the thread's own; elsewhere it would be the whole process's.
if (process.platform === 'linux') setPriority(10)
const { database } = z.object({ database: z.string() }).parse(workerData)
const run = allJobs(openDatabase(database, { readonly: true }))

/** Runs one job; the pool's only entry. An error that comes back from a thread has forgotten its kind, so a refusal goes as a value. */
export default async function runJob({
  job,
  question,
}: {
  job: Job<unknown, unknown>
  question: unknown
}): Promise<Run> {
  try {
    return { reply: await run(job, question) }
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    return { refused: { code: error.code, sentence: error.sentence, detail: error.detail } }
  }
}
