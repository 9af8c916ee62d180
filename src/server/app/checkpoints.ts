import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { type Db, databaseFile, writeAheadAtMost } from '#db/open.ts'

/** Pages; the process itself writes them back only when the thread beside it does not keep up. */
const most = 20_000

/**
 * What stands in the log of writes ahead is written back into the database by a thread beside, so that nobody's commit waits for
 * it. Should that thread end, commits do it themselves as SQLite does, and `ended` hears of it.
 */
export function checkpointBeside(db: Db, data: string, ended: (error: unknown) => void): void {
  const file = join(process.env['ROVANT_HOME'] ?? '.', 'dist/workers/checkpoints.mjs')
  const worker = new Worker(file, { workerData: { database: databaseFile(data) } })
  writeAheadAtMost(db, most)
  worker.on('error', (error) => {
    writeAheadAtMost(db, null)
    ended(error)
  })
  worker.unref()
}
