import { join } from 'node:path'
import { Piscina } from 'piscina'
import { Refusal } from '#core/lib/refusal.ts'
import type { Jobs, Run } from './job.ts'

/**
 * Long reads, on a thread with a read-only connection of its own. One thread keeps the facts of a project warm;
 * a pool of several would read them once each. Comparing all cases with each other, and writing files, take seconds and need no
 * facts: threads beside it, so that no figure waits. The solver, which is large, is loaded only where something is solved.
 */
export function jobPool(database: string): Jobs {
  const home = process.env['ROVANT_HOME'] ?? '.'
  const settings = { filename: join(home, 'dist/workers/jobs.mjs'), maxThreads: 1, workerData: { database } }
  const threads = {
    figures: new Piscina({ ...settings, minThreads: 1, idleTimeout: Infinity }),
    comparing: new Piscina({ ...settings, minThreads: 0, idleTimeout: 60_000 }),
    papers: new Piscina({ ...settings, minThreads: 0, idleTimeout: 60_000 }),
    solving: new Piscina({ ...settings, minThreads: 0, idleTimeout: 300_000 }),
  }
  return {
    run: async (job, question, signal) => {
      const running = threads[job.thread].run({ job, question }, signal ? { signal } : {}) as Promise<Run>
      const { reply, refused } = await running.catch((error: unknown) => {
        throw signal?.aborted ? new Refusal('refused', 'Stopped; nothing was stored.') : error
      })
      if (refused) throw new Refusal(refused.code, refused.sentence, refused.detail)
      // What the thread does by the name of a job is what the job says.
      return reply as never
    },
    close: async () => {
      await Promise.all(Object.values(threads).map((thread) => thread.close()))
    },
  }
}
