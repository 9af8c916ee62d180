import { z } from 'zod'
import { recordStep, recordWhole, undoVerdict } from '#core/runs/contract.ts'
import { finalVerdict, verdict } from '#core/lib/verdict.ts'
import { call, CallProblem, type Problem } from '#ui/call.ts'

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
    reason: z.string().nullable(),
    sequence: z.number(),
    at: z.number(),
  }),
  z.object({ kind: z.literal('undo'), project: z.string(), attempt: z.number(), sequence: z.number(), at: z.number() }),
])
type DeskEvent = z.infer<typeof eventShape>
type NewDeskEvent = DeskEvent extends infer E ? (E extends DeskEvent ? Omit<E, 'sequence' | 'at'> : never) : never
const keptShape = z.object({ client: z.string(), next: z.number(), waiting: z.array(eventShape) })

export interface OutboxHears {
  readonly onStored: (event: DeskEvent, answer: unknown, storedAt: number) => void
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
const goneForGood = (status: number): boolean => status >= 400 && status < 500 && ![401, 408, 429].includes(status)

/**
 * Sends verdicts one after another in their order, kept in this browser until each is acknowledged: through a
 * lost connection, an ended sign-in, a closed tab. The pair of client and sequence makes a second sending harmless.
 */
export function openOutbox(name: string, hears: OutboxHears): Outbox {
  let kept = read(name)
  let sending = false
  let stopped = false
  let timer: ReturnType<typeof setTimeout> | undefined
  const keep = (to: typeof kept) => {
    kept = to
    localStorage.setItem(name, JSON.stringify(kept))
  }
  const send = async (): Promise<void> => {
    if (sending || stopped) return
    sending = true
    for (let event = kept.waiting[0]; event && !stopped; event = kept.waiting[0]) {
      try {
        const answer = await deliver(event, kept.client)
        keep({ ...kept, waiting: kept.waiting.slice(1) })
        hears.onStored(event, answer, answer.storedAt)
        hears.onWaiting(kept.waiting.length, null)
      } catch (error) {
        const problem: Problem =
          error instanceof CallProblem
            ? error.problem
            : {
                type: 'about:blank',
                title: 'Something broke',
                status: 0,
                detail: 'It could not be sent; it is kept here and tried again.',
              }
        if (goneForGood(problem.status)) {
          keep({ ...kept, waiting: kept.waiting.slice(1) })
          hears.onRefused(event, problem)
          continue
        }
        hears.onWaiting(kept.waiting.length, problem)
        timer = setTimeout(() => void send(), retryMs)
        break
      }
    }
    sending = false
  }
  void send()
  return {
    put: (event) => {
      keep({
        ...kept,
        next: kept.next + 1,
        waiting: [...kept.waiting, eventShape.parse({ ...event, sequence: kept.next, at: Date.now() })],
      })
      hears.onWaiting(kept.waiting.length, null)
      void send()
    },
    waiting: () => kept.waiting,
    stop: () => {
      stopped = true
      clearTimeout(timer)
    },
  }
}

function deliver(event: DeskEvent, client: string) {
  const params = { key: event.project, id: event.attempt }
  const sent = { client, sequence: event.sequence, at: event.at }
  switch (event.kind) {
    case 'step':
      return call(recordStep, {
        params: { ...params, row: event.row, step: event.step },
        body: { verdict: event.verdict, word: event.word, ...sent },
      })
    case 'whole':
      return call(recordWhole, { params, body: { verdict: event.verdict, reason: event.reason, ...sent } })
    case 'undo':
      return call(undoVerdict, { params, body: sent })
  }
}

function read(name: string): z.infer<typeof keptShape> {
  const fresh = {
    client: `web-${Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, '0')).join('')}`,
    next: 1,
    waiting: [],
  }
  try {
    const parsed = keptShape.safeParse(JSON.parse(localStorage.getItem(name) ?? 'null'))
    return parsed.success ? parsed.data : fresh
  } catch {
    return fresh
  }
}
