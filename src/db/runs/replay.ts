import { and, asc, eq, ne, sql } from 'drizzle-orm'
import { type Attempt, type Mark, attemptIsFinal, attemptVerdict } from '#core/runs/attempt.ts'
import type { Verdict } from '#core/lib/verdict.ts'
import type { Tx } from '#db/open.ts'
import { int, rowsOf } from '#db/rows.ts'
import { type AttemptStored, loadAttempt } from './attempts.ts'
import { attempt, verdictEvent } from './tables.ts'
import { changeIn } from './verdict-events.ts'

/** An attempt as its events tell it. */
export interface Replayed {
  readonly stored: AttemptStored
  readonly attempt: Attempt
  readonly verdict: Verdict
  readonly final: boolean
  readonly finishedAt: number | null
  /** Is anything stored of it otherwise? */
  readonly differs: boolean
}

const place = ({ row, step }: Pick<Mark, 'row' | 'step'>): string => `${row}:${step}`
const said = (mark: Mark | undefined): string =>
  mark && mark.verdict !== 'Not run' ? `${mark.verdict} ${mark.word ?? ''} ${mark.final}` : ''

/** Ids of attempts that have events, in their order. */
const withEvents = (tx: Tx, after: number, most: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`select distinct attempt_id as id from verdict_event where attempt_id > ${after} order by attempt_id limit ${most}`,
  ).map(({ id }) => id)

/**
 * Goes through every attempt that has events and tells what they make of it. What no event touched is taken as it is stored: an
 * attempt that came from elsewhere has marks without events.
 */
export function* replayAttempts(tx: Tx): Generator<Replayed> {
  for (let after = 0; ;) {
    const ids = withEvents(tx, after, 1000)
    for (const id of ids) {
      const stored = tx.select().from(attempt).where(eq(attempt.id, id)).get()
      if (stored) yield replay(tx, stored)
    }
    const last = ids.at(-1)
    if (last === undefined) return
    after = last
  }
}

function replay(tx: Tx, stored: AttemptStored): Replayed {
  const events = tx
    .select({ change: verdictEvent.change, at: verdictEvent.at })
    .from(verdictEvent)
    .where(and(eq(verdictEvent.attemptId, stored.id), ne(verdictEvent.arrival, 'after the close')))
    .orderBy(asc(verdictEvent.id))
    .all()
  const kept = loadAttempt(tx, stored)
  const told = events.reduce<Attempt>((own, event) => after(own, changeIn(event.change)), kept)
  const verdict = attemptVerdict(told)
  const final = attemptIsFinal(told)
  const finishedAt = events.length === 0 ? stored.finishedAt : final ? (events.at(-1)?.at ?? null) : null
  const places = new Set([...kept.marks, ...told.marks].map(place))
  const marksDiffer = [...places].some(
    (each) =>
      said(kept.marks.find((mark) => place(mark) === each)) !== said(told.marks.find((mark) => place(mark) === each)),
  )
  const differs =
    marksDiffer ||
    JSON.stringify(kept.whole) !== JSON.stringify(told.whole) ||
    (events.length > 0 && (verdict !== stored.verdict || final !== stored.final || finishedAt !== stored.finishedAt))
  return { stored, attempt: told, verdict, final, finishedAt, differs }
}

/** What an event says of its places and the whole, whatever was there. */
function after(own: Attempt, change: ReturnType<typeof changeIn>): Attempt {
  const touched = new Set(
    change.marks.flatMap(({ from, to }) => [from, to].flatMap((mark) => (mark ? [place(mark)] : []))),
  )
  return {
    ...own,
    marks: [
      ...own.marks.filter((mark) => !touched.has(place(mark))),
      ...change.marks.flatMap(({ to }) => (to ? [to] : [])),
    ],
    whole: change.whole ? change.whole.to : own.whole,
  }
}
