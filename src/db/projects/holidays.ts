import { asc, eq } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { holiday } from './tables.ts'

interface Holiday {
  readonly day: string
  readonly name: string
}
export const holidaysOf = (tx: Tx, projectId: number): { day: string; name: string }[] =>
  tx
    .select({ day: holiday.day, name: holiday.name })
    .from(holiday)
    .where(eq(holiday.projectId, projectId))
    .orderBy(asc(holiday.day))
    .all()

/** All days on which nobody of a project works, in the place of those before. */
export function putHolidays(tx: Tx, projectId: number, days: readonly Holiday[]): void {
  tx.delete(holiday).where(eq(holiday.projectId, projectId)).run()
  if (days.length > 0)
    tx.insert(holiday)
      .values(days.map((each) => ({ projectId, ...each })))
      .run()
}
