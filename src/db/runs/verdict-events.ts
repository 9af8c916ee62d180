import { recordIn } from '#db/json.ts'
import { keySql } from '#db/key-sql.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { and, desc, eq, isNull, ne, sql } from 'drizzle-orm'
import type { Arrival } from '#core/runs/event-time.ts'
import { plainly } from '#core/lib/verdict.ts'
import type { AttemptChange, WholeVerdict } from '#core/runs/attempt.ts'
import type { Tx } from '#db/open.ts'
import { verdictEvent } from './tables.ts'

export const addEvent = (
  tx: Tx,
  of: {
    attemptId: number
    clientId: string
    sequence: number
    personId: string
    change: AttemptChange
    undoes?: number
    at: number
    claimedAt: number
    doubtful: boolean
    arrival: Arrival
    receivedAt: number
  },
): void =>
  void tx
    .insert(verdictEvent)
    .values({ ...of, change: JSON.stringify(of.change) })
    .run()

/** Has this event of this client been stored already, and for which attempt? */
export const findEvent = (
  tx: Tx,
  clientId: string,
  sequence: number,
): { attemptId: number; arrival: Arrival; doubtful: boolean } | undefined =>
  tx
    .select({ attemptId: verdictEvent.attemptId, arrival: verdictEvent.arrival, doubtful: verdictEvent.doubtful })
    .from(verdictEvent)
    .where(and(eq(verdictEvent.clientId, clientId), eq(verdictEvent.sequence, sequence)))
    .get()

/** The newest verdict of a person in an attempt that is not taken back yet. */
export function lastUndoable(
  tx: Tx,
  attemptId: number,
  personId: string,
): { id: number; change: AttemptChange } | undefined {
  const row = tx
    .select({ id: verdictEvent.id, change: verdictEvent.change })
    .from(verdictEvent)
    .where(
      and(
        eq(verdictEvent.attemptId, attemptId),
        eq(verdictEvent.personId, personId),
        isNull(verdictEvent.undoes),
        ne(verdictEvent.arrival, 'after the close'),
        sql`
          not exists (
            select 1
            from verdict_event u
            where u.attempt_id = ${attemptId} and u.undoes = ${verdictEvent.id} and u.arrival <> 'after the close'
          )`,
      ),
    )
    .orderBy(desc(verdictEvent.id))
    .limit(1)
    .get()
  return row && { id: row.id, change: changeIn(row.change) }
}

/** Of an attempt: how many verdicts came late, after the close, or with a time that could not be. */
export const oddEvents = (
  tx: Tx,
  attemptId: number,
): { late: number; afterClose: number; amended: number; doubtful: number } =>
  rowOf(
    tx,
    { late: int, afterClose: int, amended: int, doubtful: int },
    sql`
      select coalesce(sum(arrival = 'late'), 0) as late,
        coalesce(sum(arrival = 'after the close'), 0) as afterClose,
        coalesce(sum(arrival = 'amended'), 0) as amended,
        coalesce(sum(doubtful), 0) as doubtful
      from verdict_event
      where attempt_id = ${attemptId} and (arrival <> 'in time' or doubtful)`,
  ) ?? { late: 0, afterClose: 0, amended: 0, doubtful: 0 }

export interface AfterClose {
  readonly item: number
  readonly case: string
  readonly person: string | null
  readonly change: AttemptChange
  readonly undoes: boolean
  readonly at: number
  /** It amends what was closed. */
  readonly counts: boolean
}

/** Verdicts of a run's items that were given after its close, the newest first; `amended` of them count. */
export function eventsAfterClose(
  tx: Tx,
  runId: number,
  most: number,
): { rows: AfterClose[]; count: number; amended: number } {
  const from = sql`
    from item i
    join attempt a on a.item_id = i.id
    join verdict_event e on e.attempt_id = a.id and (e.arrival <> 'in time' or e.doubtful) and e.arrival in ('after the close', 'amended')
    join test_case c on c.id = i.case_id
    left join person p on p.id = e.person_id
    where i.run_id = ${runId}`
  const rows = rowsOf(
    tx,
    { item: int, case: text, person: maybe(text), change: text, undoes: maybe(int), at: int, counts: int },
    sql`
      select i.id as item, ${keySql('case', 'c.number')} as "case", p.name as person, e.change, e.undoes, e.at, e.arrival = 'amended' as counts
      ${from}
      order by e.id desc
      limit ${most}`,
  )
  const of = rowOf(
    tx,
    { n: int, amended: int },
    sql`
    select count(*) as n, coalesce(sum(e.arrival = 'amended'), 0) as amended
    ${from}`,
  )
  return {
    rows: rows.map((row) => ({
      ...row,
      undoes: row.undoes !== null,
      change: changeIn(row.change),
      counts: row.counts === 1,
    })),
    count: of?.n ?? 0,
    amended: of?.amended ?? 0,
  }
}

// Written from an attempt's change by `addEvent` alone; once a verdict for the whole had no word of its own.
export function changeIn(stored: string): AttemptChange {
  const change = recordIn(stored) as unknown as AttemptChange
  const wholly = (of: WholeVerdict | null): WholeVerdict | null => of && { ...plainly(of.verdict), ...of }
  return change.whole ? { ...change, whole: { from: wholly(change.whole.from), to: wholly(change.whole.to) } } : change
}
