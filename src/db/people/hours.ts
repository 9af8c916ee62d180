import { and, asc, eq, gte } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { absence, person } from './tables.ts'

/** Absences that end on `from` or later, in their order. */
export const absencesOf = (tx: Tx, personId: string, from: string): (typeof absence.$inferSelect)[] =>
  tx
    .select()
    .from(absence)
    .where(and(eq(absence.personId, personId), gte(absence.endOn, from)))
    .orderBy(asc(absence.startOn), asc(absence.id))
    .all()

export const addAbsence = (tx: Tx, of: typeof absence.$inferInsert): number =>
  tx.insert(absence).values(of).returning({ id: absence.id }).get().id

/** One of a person's absences taken back; whether there was one. */
export const dropAbsence = (tx: Tx, personId: string, id: number): boolean =>
  tx
    .delete(absence)
    .where(and(eq(absence.id, id), eq(absence.personId, personId)))
    .run().changes > 0

export const hoursOf = (tx: Tx, personId: string): { workingMinutes: number; freePercent: number } | undefined =>
  tx
    .select({ workingMinutes: person.workingMinutes, freePercent: person.freePercent })
    .from(person)
    .where(eq(person.id, personId))
    .get()
