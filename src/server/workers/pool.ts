import { join } from 'node:path'
import { Piscina } from 'piscina'
import type { JobAnswers, JobQuestions } from './all-jobs.ts'

export interface Jobs {
  readonly run: <K extends keyof JobQuestions>(name: K, question: JobQuestions[K]) => Promise<JobAnswers[K]>
  readonly close: () => Promise<void>
}

/**
 * Long reads, on a thread with a read-only connection of its own. One thread keeps the facts of a project warm;
 * a pool of several would read them once each.
 */
export function jobPool(database: string): Jobs {
  const home = process.env['ROVANT_HOME'] ?? '.'
  const pool = new Piscina({ filename: join(home, 'dist/workers/jobs.mjs'), minThreads: 1, maxThreads: 1, workerData: { database }, idleTimeout: Infinity })
  return { run: (name, question) => pool.run({ name, question }), close: () => pool.close() }
}
