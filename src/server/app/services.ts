import { mkdirSync } from 'node:fs'
import { databaseFile, openDatabase } from '#db/open.ts'
import { forgetIdempotent } from '#db/installation/answers.ts'
import { newLog } from './log.ts'
import { checkpointBeside } from './checkpoints.ts'
import type { Mail } from '#core/integrations/mail.ts'
import { eventHub } from '#server/http/events.ts'
import { guessCounter } from '#server/http/guesses.ts'
import { sealBy } from '#server/http/seal.ts'
import type { Services } from '#server/http/services.ts'
import { signInLibrary } from '#server/http/sign-in.ts'
import { keyOf, settleKey } from '#server/installation/key.ts'
import { sealTokens } from '#server/projects/update-project.ts'
import { evidenceOf } from '#server/integrations/evidence-place.ts'
import { noMail, smtpMail } from '#server/integrations/mail.ts'
import { importDue, incomingFolder } from '#server/formats/standing-imports.ts'
import { renewMinutes } from '#server/schedule/renew-minutes.ts'
import { closeRuns } from '#server/runs/close-runs.ts'
import { sendLetters } from '#server/talk/send-letters.ts'
import { watchMembers } from '#server/plans/keep-members.ts'
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
/** Whoever just started it wants to see a page first. */
const soon = 3000

/** What is due is looked for every minute: imports, one after the other, letters, and runs that close by themselves. */
function withSchedule(own: Services): Services {
  let busy = false
  setInterval(() => {
    if (busy) return
    busy = true
    void Promise.all([importDue(own), sendLetters(own), Promise.resolve(own).then(closeRuns)])
      .catch(own.logError)
      .finally(() => {
        busy = false
      })
  }, minute).unref()
  watchMembers(own)
  const renew = () => void renewMinutes(own).catch(own.logError)
  setTimeout(renew, soon).unref()
  setInterval(renew, day).unref()
  return own
}

function start(data: string): Services {
  mkdirSync(data, { recursive: true })
  const db = openDatabase(databaseFile(data))
  const forget = () => forgetIdempotent(db, Date.now() - keptDays * day)
  forget()
  setInterval(forget, day).unref()
  const key = keyOf(data)
  const seal = sealBy(key)
  settleKey(db, key, Date.now())
  sealTokens(db, seal)
  const log = newLog()
  checkpointBeside(db, data, (error) => log.error({ err: error }, 'the thread of checkpoints ended'))
  const securityLog = log.child({}, { level: 'info' })
  mkdirSync(incomingFolder(data), { recursive: true })
  return {
    db,
    data,
    evidence: evidenceOf(data),
    signIn: signInLibrary(db, { secret: key, secure: process.env['ROVANT_TLS'] === '1' }),
    seal,
    guesses: guessCounter(),
    events: eventHub(),
    jobs: jobPool(databaseFile(data)),
    now: Date.now,
    mail: mailOf(process.env['ROVANT_MAIL'], process.env['ROVANT_MAIL_FROM']),
    baseAddress: (process.env['ROVANT_BASE_ADDRESS'] ?? process.env['ROVANT_ADDRESS'])?.replace(/\/$/, '') ?? null,
    logError: (error, request) => log.error({ err: error, request }, 'a request failed'),
    // Told at any level: whoever watches over the installation has to hear of it.
    logSecurity: (event) => securityLog.info({ security: event }, event.told),
  }
}

/** The mail server named by whoever started this, if any. */
const mailOf = (url: string | undefined, from: string | undefined): Mail =>
  url ? smtpMail(url, from ?? `rovant@${new URL(url).hostname}`) : noMail
