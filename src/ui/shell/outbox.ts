import { z } from 'zod'
import { recordStep, recordWhole, undoVerdict } from '#core/runs/desk-contract.ts'
import { finalVerdict, verdict } from '#core/lib/verdict.ts'
import { call, CallProblem, isForGood, type Problem } from '#ui/call.ts'
import { shaped } from '#ui/kit/stored.ts'

/** What a person recorded, until the server has said that it is on disk. */
const eventShape = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('step'),
    project: z.string(),
    attempt: z.number(),
    row: z.number(),
    step: z.number(),
    verdict,
    // What an older page left waiting had no word.
    word: z.string().nullable().default(null),
    sequence: z.number(),
    at: z.number(),
  }),
  z.object({
    kind: z.literal('whole'),
    project: z.string(),
    attempt: z.number(),
    verdict: finalVerdict.nullable(),
    // What was put down before there were words for the whole has none.
    word: z.string().nullable().default(null),
    reason: z.string().nullable(),
    sequence: z.number(),
    at: z.number(),
  }),
  z.object({ kind: z.literal('undo'), project: z.string(), attempt: z.number(), sequence: z.number(), at: z.number() }),
])
export type DeskEvent = z.infer<typeof eventShape>
type NewDeskEvent = DeskEvent extends infer E ? (E extends DeskEvent ? Omit<E, 'sequence' | 'at'> : never) : never
/** What one window keeps under its own name; `seen` is when that window was last known to be open. */
const keptShape = z.object({
  client: z.string(),
  next: z.number(),
  waiting: z.array(eventShape),
  seen: z.number().default(0),
})
type Kept = z.infer<typeof keptShape>

/** `counts` is false for what was given after its run was closed. */
interface Became {
  readonly storedAt: number
  readonly counts: boolean
  readonly said: string
}
export interface OutboxHears {
  /** `answer` is null for what a closed window had left. `said`: what became of it, where that is not what one expects. */
  readonly onStored: (event: DeskEvent, answer: unknown, became: Became) => void
  readonly onWaiting: (count: number, problem: Problem | null) => void
  /** The server refused an event for good: it is taken out, and what is shown is asked again. */
  readonly onRefused: (event: DeskEvent, problem: Problem) => void
}
export interface Outbox {
  readonly put: (event: NewDeskEvent) => void
  readonly waiting: () => readonly DeskEvent[]
  readonly stop: () => void
}

const retryMs = 2000

/** A window says so often that it is open; what one keeps that has not said so for longer was left behind. */
const tendMs = 4000
const goneMs = 12_000

/**
 * Sends verdicts one after another in their order, kept in this browser until each is acknowledged: through a lost connection, an
 * ended sign-in, a closed tab. Every window numbers its own, under a client of its own; what a closed window left is sent by the
 * next one, under the old numbers, so that a second sending is harmless.
 */
export function openOutbox(person: string, hears: OutboxHears): Outbox {
  const own = windowOf(person)
  let sending = false
  let stopped = false
  let timer: ReturnType<typeof setTimeout> | undefined
  const told = (problem: Problem | null) => hears.onWaiting(own.kept().waiting.length, problem)
  const later = (problem: Problem) => {
    told(problem)
    // One at a time: each verdict put while the server is away would begin a row of tries of its own.
    clearTimeout(timer)
    if (!stopped) timer = setTimeout(() => void send(), retryMs)
  }
  const send = async (): Promise<void> => {
    if (sending || stopped) return
    sending = true
    // What was recorded before comes before.
    let problem = await sendLeft(person, own.name, hears)
    for (let event = own.kept().waiting[0]; event && !problem && !stopped; event = own.kept().waiting[0]) {
      problem = await sendOne(event, own.kept().client, { ...hears, onDone: () => own.shift() })
      if (!problem) told(null)
    }
    sending = false
    if (problem) later(problem)
  }
  void send()
  const tending = setInterval(() => {
    own.touch()
    void send()
  }, tendMs)
  addEventListener('pagehide', own.leave)
  return {
    put: (event) => {
      own.add(event)
      told(null)
      void send()
    },
    waiting: () => own.kept().waiting,
    stop: () => {
      stopped = true
      clearTimeout(timer)
      clearInterval(tending)
      removeEventListener('pagehide', own.leave)
      own.leave()
    },
  }
}

/** What this window keeps, under a name of its own. */
function windowOf(person: string) {
  const client = newClient()
  const name = `${person}.${client}`
  let kept: Kept = { client, next: 1, waiting: [], seen: Date.now() }
  const keep = (to: Partial<Kept>) => {
    kept = { ...kept, ...to, seen: Date.now() }
    if (kept.waiting.length === 0) localStorage.removeItem(name)
    else localStorage.setItem(name, JSON.stringify(kept))
  }
  return {
    name,
    kept: () => kept,
    add: (event: NewDeskEvent) => {
      const numbered = eventShape.parse({ ...event, sequence: kept.next, at: Date.now() })
      keep({ next: kept.next + 1, waiting: [...kept.waiting, numbered] })
    },
    shift: () => keep({ waiting: kept.waiting.slice(1) }),
    touch: () => {
      if (kept.waiting.length > 0) keep({})
    },
    /** Whoever leaves says so, that the next page need not wait until it is clear. */
    leave: () => {
      if (kept.waiting.length > 0) localStorage.setItem(name, JSON.stringify({ ...kept, seen: 0 }))
    },
  }
}

/** Sends one; `null` once the server has taken or refused it for good, else why it was not reached. */
async function sendOne(
  event: DeskEvent,
  client: string,
  { onDone, onStored, onRefused }: Pick<OutboxHears, 'onStored' | 'onRefused'> & { onDone: () => void },
): Promise<Problem | null> {
  try {
    const answer = await deliver(event, client)
    onDone()
    onStored(event, answer, answer)
  } catch (error) {
    const problem = problemOf(error)
    if (!isForGood(problem.status)) return problem
    onDone()
    onRefused(event, problem)
  }
  return null
}

/** Sends what windows left behind that are not open any more; told as stored, with nothing to show of it. */
async function sendLeft(person: string, own: string, hears: OutboxHears): Promise<Problem | null> {
  for (const name of Object.keys(localStorage)) {
    const text = name === person || name.startsWith(`${person}.`) ? localStorage.getItem(name) : null
    const kept = shaped(text, keptShape)
    if (name === own || !kept || Date.now() - kept.seen < goneMs) continue
    for (const event of kept.waiting) {
      const onStored: OutboxHears['onStored'] = (stored, _, became) => hears.onStored(stored, null, became)
      const problem = await sendOne(event, kept.client, { ...hears, onStored, onDone: () => undefined })
      if (problem) return problem
    }
    // The window may be open after all, and have kept more meanwhile: that is its own to send.
    if (localStorage.getItem(name) === text) localStorage.removeItem(name)
  }
  return null
}

const problemOf = (error: unknown): Problem =>
  error instanceof CallProblem
    ? error.problem
    : {
        type: 'about:blank',
        title: 'Something broke',
        status: 0,
        detail: 'It could not be sent; it is kept here and tried again.',
      }

function deliver(event: DeskEvent, client: string) {
  const params = { key: event.project, id: event.attempt }
  const sent = { client, sequence: event.sequence, at: event.at, sent: Date.now() }
  switch (event.kind) {
    case 'step':
      return call(recordStep, {
        params: { ...params, row: event.row, step: event.step },
        body: { verdict: event.verdict, word: event.word, ...sent },
      })
    case 'whole':
      return call(recordWhole, {
        params,
        body: { verdict: event.verdict, word: event.word, reason: event.reason, ...sent },
      })
    case 'undo':
      return call(undoVerdict, { params, body: sent })
  }
}

const newClient = (): string =>
  `web-${Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, '0')).join('')}`
