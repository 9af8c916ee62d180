import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { randomBytes } from 'node:crypto'
import { join } from 'node:path'
import { pino } from 'pino'
import { databaseFile, evidenceFolder, openDatabase } from '#db/open.ts'
import { forgetIdempotent } from '#db/installation/answers.ts'
import { eventHub } from '#server/http/events.ts'
import { guessCounter } from '#server/http/guesses.ts'
import type { Services } from '#server/http/services.ts'
import { signInLibrary } from '#server/http/sign-in.ts'
import { importDue, incomingFolder } from '#server/formats/standing-imports.ts'
import { jobPool } from '#server/workers/pool.ts'

const day = 86_400_000
/** Answers to requests with an Idempotency-Key are given again for so long. */
const keptDays = 30

let made: Services | null = null
// Open streams would keep the server from ending.
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => made?.events.endAll())

/** The services of this process; the data directory comes from whoever started it. */
export function services(): Services {
  made ??= withSchedule(start(process.env['ROVANT_DATA'] ?? 'data/main'))
  return made
}

const minute = 60_000

/** What is due is looked for every minute, one import after the other. */
function withSchedule(own: Services): Services {
  let busy = false
  setInterval(() => {
    if (busy) return
    busy = true
    void importDue(own)
      .catch(own.logError)
      .finally(() => {
        busy = false
      })
  }, minute).unref()
  return own
}

function start(data: string): Services {
  mkdirSync(evidenceFolder(data), { recursive: true })
  const db = openDatabase(databaseFile(data))
  const forget = () => forgetIdempotent(db, Date.now() - keptDays * day)
  forget()
  setInterval(forget, day).unref()
  const log = pino({ level: process.env['ROVANT_LOG'] ?? 'warn' })
  mkdirSync(incomingFolder(data), { recursive: true })
  return {
    db,
    data,
    evidence: evidenceFolder(data),
    signIn: signInLibrary(db, { secret: secretOf(data), secure: process.env['ROVANT_TLS'] === '1' }),
    guesses: guessCounter(),
    events: eventHub(),
    jobs: jobPool(databaseFile(data)),
    now: Date.now,
    logError: (error) => log.error(error),
  }
}

/** The key that signs cookies: made once per data directory and kept beside the database. */
function secretOf(data: string): string {
  const file = join(data, 'secret')
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600 })
  return readFileSync(file, 'utf8').trim()
}
