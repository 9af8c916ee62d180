import { and, eq, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { apiToken } from './tables.ts'

export const tokenOwner = (tx: Tx, hash: string): { personId: string; projectId: number | null } | undefined =>
  tx
    .select({ personId: apiToken.personId, projectId: apiToken.projectId })
    .from(apiToken)
    .where(and(eq(apiToken.hash, hash), sql`${apiToken.revokedAt} is null`))
    .get()

export const addToken = (
  tx: Tx,
  of: { personId: string; projectId: number | null; name: string; hash: string; createdAt: number },
): void => void tx.insert(apiToken).values(of).run()

export const revokeToken = (tx: Tx, personId: string, name: string, now: number): number =>
  tx
    .update(apiToken)
    .set({ revokedAt: now })
    .where(and(eq(apiToken.personId, personId), eq(apiToken.name, name), sql`${apiToken.revokedAt} is null`))
    .run().changes
