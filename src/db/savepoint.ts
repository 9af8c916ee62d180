import { sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'

/** Part of a transaction: where it throws, what it stored is taken back, and the rest of the transaction stays. */
export function savepoint<T>(tx: Tx, work: () => T): T {
  tx.run(sql`savepoint part`)
  try {
    const done = work()
    tx.run(sql`release part`)
    return done
  } catch (error) {
    tx.run(sql`rollback to part`)
    tx.run(sql`release part`)
    throw error
  }
}
