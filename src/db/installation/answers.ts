import { and, eq, lt } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { idempotencyKey } from './tables.ts'

export const findIdempotent = (
  tx: Tx,
  personId: string,
  key: string,
): { request: string; bodyHash: string; status: number; answer: string } | undefined =>
  tx
    .select()
    .from(idempotencyKey)
    .where(and(eq(idempotencyKey.personId, personId), eq(idempotencyKey.key, key)))
    .get()

export const addIdempotent = (tx: Tx, of: typeof idempotencyKey.$inferInsert): void =>
  void tx.insert(idempotencyKey).values(of).run()

export const forgetIdempotent = (tx: Tx, before: number): void =>
  void tx.delete(idempotencyKey).where(lt(idempotencyKey.at, before)).run()
