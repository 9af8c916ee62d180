import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { link } from './tables.ts'

export type LinkStored = typeof link.$inferSelect
export const openLinks = (tx: Tx, of: { requirementId?: number; caseId?: number }): LinkStored[] =>
  tx
    .select()
    .from(link)
    .where(
      and(
        isNull(link.untilAt),
        of.requirementId === undefined ? undefined : eq(link.requirementId, of.requirementId),
        of.caseId === undefined ? undefined : eq(link.caseId, of.caseId),
      ),
    )
    .all()

export const linkById = (tx: Tx, projectId: number, id: number): LinkStored | undefined =>
  tx
    .select()
    .from(link)
    .where(and(eq(link.id, id), eq(link.projectId, projectId)))
    .get()

/** Links a case to a requirement unless it is linked already; answers the link that was made. */
export function addLink(
  tx: Tx,
  of: {
    projectId: number
    requirementId: number
    caseId: number
    revision: number
    versionId: number | null
    quote?: string
    stepId?: number | null
  },
  by: { now: number; personId: string | null },
): number | null {
  return (
    tx
      .insert(link)
      .values({
        projectId: of.projectId,
        requirementId: of.requirementId,
        caseId: of.caseId,
        fromAt: by.now,
        confirmedRevision: of.revision,
        confirmedVersionId: of.versionId,
        personId: by.personId,
        quote: of.quote ?? '',
        stepId: of.stepId ?? null,
      })
      .onConflictDoNothing()
      .returning({ id: link.id })
      .get()?.id ?? null
  )
}

export const endLink = (tx: Tx, id: number, now: number): void =>
  void tx.update(link).set({ untilAt: now }).where(eq(link.id, id)).run()

/** Ends the links a case got at an instant from another that has the same. */
export const endAddedLinks = (tx: Tx, of: { from: number; to: number; since: number; now: number }): void =>
  void tx.run(
    sql`
      update link
      set until_at = ${of.now}
      where case_id = ${of.to}
        and until_at is null
        and from_at = ${of.since}
        and requirement_id in (select requirement_id from link where case_id = ${of.from} and until_at is null)`,
  )
export const saveLink = (tx: Tx, id: number, edit: { stepId: number | null; quote: string }): void =>
  void tx.update(link).set(edit).where(eq(link.id, id)).run()
