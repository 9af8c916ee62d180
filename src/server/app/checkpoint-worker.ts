import { setPriority } from 'node:os'
import { workerData } from 'node:worker_threads'
import { z } from 'zod'
import { openDatabase, writeBack } from '#db/open.ts'
import { unlessFull } from '#server/http/disk.ts'

/** Looked at so often, in ms. */
const every = 300

// Whoever waits for an answer goes first. Only on Linux a priority is the thread's own; elsewhere it would be the whole process's.
if (process.platform === 'linux') setPriority(5)
const { database } = z.object({ database: z.string() }).parse(workerData)
const db = openDatabase(database)
setInterval(() => unlessFull(() => writeBack(db)), every)
