import { and, asc, eq, ne, sql } from 'drizzle-orm'
import { apply, type Attempt, type AttemptChange, type Mark } from '#core/runs/attempt.ts'
import type { Tx } from '#db/open.ts'
import { int, rowsOf } from '#db/rows.ts'
import { type AttemptState, type AttemptStored, loadAttempt, stateOf } from './attempts.ts'
import { attempt, verdictEvent } from './tables.ts'
import { changeIn } from './verdict-events.ts'

/** An attempt as its events tell it. */
export interface Replayed {
  readonly stored: AttemptStored
  readonly state: AttemptState
  /** Marks that are stored otherwise than the events gave them. */
  readonly marks: AttemptChange['marks']
  /** Is anything stored of it otherwise? */
  readonly differs: boolean
}

/** Ids of attempts that have events that count, in their order. */
const withEvents = (tx: Tx, after: number, most: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select distinct attempt_id as id
      from verdict_event
      where attempt_id > ${after} and arrival <> 'after the close'
      order by attempt_id
      limit ${most}`,
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
  const told = events.reduce<Attempt>((own, { change }) => applied(own, changeIn(change)), kept)
  const state = stateOf(told, events.at(-1)?.at ?? stored.startedAt)
  const marks = markChanges(kept, told)
  return { stored, state, marks, differs: marks.length > 0 || !isStored(state, stored) }
}

function applied(own: Attempt, change: AttemptChange): Attempt {
  const outcome = apply(own, change)
  return outcome.ok ? outcome.attempt : own
}

const isStored = (state: AttemptState, stored: AttemptStored): boolean =>
  state.verdict === stored.verdict &&
  state.final === stored.final &&
  state.word === stored.word &&
  state.wholeVerdict === stored.wholeVerdict &&
  state.wholeWord === stored.wholeWord &&
  state.wholeFinal === stored.wholeFinal &&
  state.overrideReason === stored.overrideReason &&
  state.finishedAt === stored.finishedAt

/** What makes the marks of one attempt those of the other; one that says nothing is as good as none. */
function markChanges(one: Attempt, other: Attempt): AttemptChange['marks'] {
  const byPlace = ({ marks }: Attempt) => new Map(marks.map((mark) => [`${mark.row}:${mark.step}`, mark]))
  const [from, to] = [byPlace(one), byPlace(other)]
  return [...new Set([...from.keys(), ...to.keys()])]
    .map((place) => ({ from: from.get(place) ?? null, to: to.get(place) ?? null }))
    .filter((change) => said(change.from) !== said(change.to))
}
const said = (mark: Mark | null): string =>
  mark && mark.verdict !== 'Not run' ? `${mark.verdict} ${mark.word ?? ''} ${mark.final}` : ''
