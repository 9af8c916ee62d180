import { and, eq, gt, isNull } from 'drizzle-orm'
import type { LinkPurpose } from '#core/people/link.ts'
import type { Tx } from '#db/open.ts'
import { passwordLink } from './tables.ts'

interface NewLink {
  readonly hash: string
  readonly personId: string
  readonly purpose: LinkPurpose
  readonly madeBy: string | null
  readonly createdAt: number
  readonly endsAt: number
}

/** Keeps a one-time link; those of before no longer work. */
export function addLink(tx: Tx, of: NewLink): void {
  endLinks(tx, of.personId, of.createdAt)
  tx.insert(passwordLink).values(of).run()
}

/** A link that still works. */
export const liveLink = (tx: Tx, hash: string, now: number): typeof passwordLink.$inferSelect | undefined =>
  tx
    .select()
    .from(passwordLink)
    .where(and(eq(passwordLink.hash, hash), isNull(passwordLink.usedAt), gt(passwordLink.endsAt, now)))
    .get()

/** No link of the person works any more. */
export const endLinks = (tx: Tx, personId: string, now: number): void =>
  void tx
    .update(passwordLink)
    .set({ usedAt: now })
    .where(and(eq(passwordLink.personId, personId), isNull(passwordLink.usedAt)))
    .run()

/** Who made the newest link by which somebody was invited. */
export const invitedBy = (tx: Tx, personId: string): string | null =>
  tx
    .select({ by: passwordLink.madeBy })
    .from(passwordLink)
    .where(and(eq(passwordLink.personId, personId), eq(passwordLink.purpose, 'invitation')))
    .orderBy(passwordLink.createdAt)
    .all()
    .at(-1)?.by ?? null
