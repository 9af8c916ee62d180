import type { TokenLimit, TokenScope } from '#core/people/token.ts'
import { and, desc, eq, gt, isNull, or } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { apiToken } from './tables.ts'

export interface TokenOwner extends TokenLimit {
  readonly id: number
  readonly personId: string
}

/** Whose token it is and what it may be used for; nothing of one that was revoked or has ended. */
export const tokenOwner = (tx: Tx, hash: string, now: number): TokenOwner | undefined =>
  tx
    .select({ id: apiToken.id, personId: apiToken.personId, projectId: apiToken.projectId, scope: apiToken.scope })
    .from(apiToken)
    .where(
      and(eq(apiToken.hash, hash), isNull(apiToken.revokedAt), or(isNull(apiToken.endsAt), gt(apiToken.endsAt, now))),
    )
    .get()

/** The last use, to `every` milliseconds; looked at first, as with a sign-in. */
export function noteTokenUse(tx: Tx, id: number, now: number, every: number): void {
  const own = eq(apiToken.id, id)
  const before = tx.select({ at: apiToken.lastUsedAt }).from(apiToken).where(own).get()
  if (before && (before.at ?? 0) < now - every) tx.update(apiToken).set({ lastUsedAt: now }).where(own).run()
}

export interface NewToken {
  readonly personId: string
  readonly projectId: number | null
  readonly name: string
  readonly hash: string
  readonly scope: TokenScope
  readonly createdAt: number
  readonly endsAt: number | null
}

export const addToken = (tx: Tx, of: NewToken): void => void tx.insert(apiToken).values(of).run()

/** Tokens of a person that work, newest first. */
export const tokensOf = (tx: Tx, personId: string, now: number): (typeof apiToken.$inferSelect)[] =>
  tx
    .select()
    .from(apiToken)
    .where(
      and(
        eq(apiToken.personId, personId),
        isNull(apiToken.revokedAt),
        or(isNull(apiToken.endsAt), gt(apiToken.endsAt, now)),
      ),
    )
    .orderBy(desc(apiToken.id))
    .all()

/** Revokes all tokens of a person, or the one with this id; how many there were. */
export const revokeTokens = (tx: Tx, personId: string, now: number, id?: number): number =>
  tx
    .update(apiToken)
    .set({ revokedAt: now })
    .where(
      and(
        eq(apiToken.personId, personId),
        isNull(apiToken.revokedAt),
        id === undefined ? undefined : eq(apiToken.id, id),
      ),
    )
    .run().changes

export const revokeToken = (tx: Tx, personId: string, name: string, now: number): number =>
  tx
    .update(apiToken)
    .set({ revokedAt: now })
    .where(and(eq(apiToken.personId, personId), eq(apiToken.name, name), isNull(apiToken.revokedAt)))
    .run().changes
