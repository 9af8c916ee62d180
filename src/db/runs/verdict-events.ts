import { recordIn } from '#db/json.ts'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import type { AttemptChange } from '#core/runs/attempt.ts'
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
    receivedAt: number
  },
): void =>
  void tx
    .insert(verdictEvent)
    .values({ ...of, change: JSON.stringify(of.change) })
    .run()

/** Has this event of this client been stored already, and for which attempt? */
export const findEvent = (tx: Tx, clientId: string, sequence: number): { attemptId: number } | undefined =>
  tx
    .select({ attemptId: verdictEvent.attemptId })
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
        sql`
          not exists (
            select 1
            from verdict_event u
            where u.attempt_id = ${attemptId} and u.undoes = ${verdictEvent.id}
          )`,
      ),
    )
    .orderBy(desc(verdictEvent.id))
    .limit(1)
    .get()
  // Written from an attempt's change by `addEvent` alone.
  return row && { id: row.id, change: recordIn(row.change) as unknown as AttemptChange }
}
