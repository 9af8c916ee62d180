import { and, eq } from 'drizzle-orm'
import type { TrackerIssue } from '#core/integrations/tracker.ts'
import type { Tx } from '#db/open.ts'
import { outsideCopy, tracker } from './tables.ts'

export interface TrackerStored {
  readonly name: string
  readonly url: string
  readonly token: string
}
export const trackerOf = (tx: Tx, projectId: number): TrackerStored | undefined =>
  tx
    .select({ name: tracker.name, url: tracker.url, token: tracker.token })
    .from(tracker)
    .where(eq(tracker.projectId, projectId))
    .get()
export const saveTracker = (tx: Tx, projectId: number, of: TrackerStored): void =>
  void tx
    .insert(tracker)
    .values({ projectId, ...of })
    .onConflictDoUpdate({ target: tracker.projectId, set: of })
    .run()
/** Projects that are connected to a tracker, with the token as it is kept. */
export const trackerTokens = (tx: Tx): { projectId: number; token: string }[] =>
  tx.select({ projectId: tracker.projectId, token: tracker.token }).from(tracker).all()
export const setTrackerToken = (tx: Tx, projectId: number, token: string): void =>
  void tx.update(tracker).set({ token }).where(eq(tracker.projectId, projectId)).run()
export const dropTracker = (tx: Tx, projectId: number): void =>
  void tx.delete(tracker).where(eq(tracker.projectId, projectId)).run()

export type OutsideStored = TrackerIssue & { readonly fetchedAt: number }
export function outsideOf(tx: Tx, projectId: number, ref: string): OutsideStored | undefined {
  const found = tx
    .select()
    .from(outsideCopy)
    .where(and(eq(outsideCopy.projectId, projectId), eq(outsideCopy.ref, ref)))
    .get()
  if (!found) return undefined
  const { projectId: _, ...rest } = found
  return rest
}
export const saveOutside = (tx: Tx, projectId: number, issue: TrackerIssue, fetchedAt: number): void =>
  void tx
    .insert(outsideCopy)
    .values({ projectId, ...issue, fetchedAt })
    .onConflictDoUpdate({ target: [outsideCopy.projectId, outsideCopy.ref], set: { ...issue, fetchedAt } })
    .run()
