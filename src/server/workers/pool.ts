import { join } from 'node:path'
import { Piscina } from 'piscina'
import type { JobAnswers, JobQuestions } from '#server/app/all-jobs.ts'

const compares: ReadonlySet<string> = new Set(['repeats', 'same', 'alike'])

export interface Jobs {
  readonly run: <K extends keyof JobQuestions>(name: K, question: JobQuestions[K]) => Promise<JobAnswers[K]>
  readonly close: () => Promise<void>
}

/**
 * Long reads, on a thread with a read-only connection of its own. One thread keeps the facts of a project warm;
 * a pool of several would read them once each. Comparing all cases with each other takes seconds and needs no facts: a thread beside
 * it, so that no figure waits.
 */
export function jobPool(database: string): Jobs {
  const home = process.env['ROVANT_HOME'] ?? '.'
  const settings = { filename: join(home, 'dist/workers/jobs.mjs'), maxThreads: 1, workerData: { database } }
  const reports = new Piscina({ ...settings, minThreads: 1, idleTimeout: Infinity })
  const comparing = new Piscina({ ...settings, minThreads: 0, idleTimeout: 60_000 })
  return {
    run: (name, question) => (compares.has(name) ? comparing : reports).run({ name, question }),
    close: async () => {
      await Promise.all([reports.close(), comparing.close()])
    },
  }
}
