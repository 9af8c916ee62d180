import { join } from 'node:path'
import { Piscina } from 'piscina'
import type { Jobs } from './job.ts'

/**
 * Long reads, on a thread with a read-only connection of its own. One thread keeps the facts of a project warm;
 * a pool of several would read them once each. Comparing all cases with each other, and writing files, take seconds and need no
 * facts: threads beside it, so that no figure waits.
 */
export function jobPool(database: string): Jobs {
  const home = process.env['ROVANT_HOME'] ?? '.'
  const settings = { filename: join(home, 'dist/workers/jobs.mjs'), maxThreads: 1, workerData: { database } }
  const threads = {
    figures: new Piscina({ ...settings, minThreads: 1, idleTimeout: Infinity }),
    comparing: new Piscina({ ...settings, minThreads: 0, idleTimeout: 60_000 }),
    papers: new Piscina({ ...settings, minThreads: 0, idleTimeout: 60_000 }),
  }
  return {
    run: (job, question, signal) => threads[job.thread].run({ job, question }, signal ? { signal } : {}),
    close: async () => {
      await Promise.all(Object.values(threads).map((thread) => thread.close()))
    },
  }
}
