import { and, eq, isNull, sql } from 'drizzle-orm'
import { keySql } from '#db/key-sql.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'
import { calendarAddress } from './tables.ts'

export type CalendarAddressStored = typeof calendarAddress.$inferSelect

/** Addresses somebody made in a project that still work, the newest first. */
export const addressesOf = (tx: Tx, projectId: number, personId: string) =>
  rowsOf(
    tx,
    { id: int, key: maybe(text), title: maybe(text), at: int, readAt: maybe(int) },
    sql`
      select a.id, ${keySql('run', 'r.number')} as key, r.title, a.created_at as at, a.last_used_at as readAt
      from calendar_address a
      left join run r on r.id = a.run_id
      where a.person_id = ${personId} and a.project_id = ${projectId} and a.revoked_at is null
      order by a.id desc`,
  ).map(({ key, title, ...row }) => ({ ...row, run: key !== null && title !== null ? { key, title } : null }))

export const addAddress = (tx: Tx, of: Omit<typeof calendarAddress.$inferInsert, 'id'>): void =>
  void tx.insert(calendarAddress).values(of).run()

export const addressAt = (tx: Tx, hash: string): CalendarAddressStored | undefined =>
  tx
    .select()
    .from(calendarAddress)
    .where(and(eq(calendarAddress.hash, hash), isNull(calendarAddress.revokedAt)))
    .get()

/** Notes that it was read; not more often than once in `every` milliseconds. */
export const noteAddressUse = (tx: Tx, { id, lastUsedAt }: CalendarAddressStored, now: number, every: number): void => {
  if ((lastUsedAt ?? 0) < now - every)
    tx.update(calendarAddress).set({ lastUsedAt: now }).where(eq(calendarAddress.id, id)).run()
}

/** Revokes one of somebody's own; whether there was one. */
export const revokeAddress = (tx: Tx, of: { id: number; personId: string; now: number }): boolean =>
  tx
    .update(calendarAddress)
    .set({ revokedAt: of.now })
    .where(
      and(eq(calendarAddress.id, of.id), eq(calendarAddress.personId, of.personId), isNull(calendarAddress.revokedAt)),
    )
    .run().changes > 0
