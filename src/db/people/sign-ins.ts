import { and, desc, eq, ne } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { signIn } from './tables.ts'

type SignInRow = typeof signIn.$inferSelect

/** Where somebody is signed in, last used first. */
export const signInsOf = (tx: Tx, personId: string, now: number): SignInRow[] =>
  tx
    .select()
    .from(signIn)
    .where(eq(signIn.userId, personId))
    .orderBy(desc(signIn.lastUsedAt), desc(signIn.createdAt))
    .all()
    .filter(({ expiresAt }) => expiresAt.getTime() > now)

/**
 * Notes the use of a sign-in to `every` milliseconds. It is looked at first: a write that changes nothing would still wait for whoever
 * writes, with every request.
 */
export function noteSignInUse(tx: Tx, token: string, now: number, every: number): void {
  const own = eq(signIn.token, token)
  const before = tx.select({ at: signIn.lastUsedAt }).from(signIn).where(own).get()
  if (before && (before.at ?? 0) < now - every) tx.update(signIn).set({ lastUsedAt: now }).where(own).run()
}

/** Ends sign-ins of a person: one, all, or all but the one with this token; answers the tokens they had. */
export function endSignIns(tx: Tx, personId: string, of: { id?: string; but?: string | null }): string[] {
  const which = and(
    eq(signIn.userId, personId),
    of.id === undefined ? undefined : eq(signIn.id, of.id),
    of.but == null ? undefined : ne(signIn.token, of.but),
  )
  return tx
    .delete(signIn)
    .where(which)
    .returning({ token: signIn.token })
    .all()
    .map(({ token }) => token)
}
