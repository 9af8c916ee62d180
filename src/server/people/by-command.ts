import { Refusal } from '#core/lib/refusal.ts'
import type { SecurityKind } from '#core/people/security-contract.ts'
import { findPersonByName, type PersonRow } from '#db/people/people.ts'
import { addSecurityEvent } from '#db/people/security.ts'
import type { Db, Tx } from '#db/open.ts'

interface ByCommand {
  readonly kind: SecurityKind
  readonly told: (owner: PersonRow) => string
  /** What is said of whom there is none, after “here”. */
  readonly who?: string
}

/** Does something to somebody named on the command line who has access, and writes it down. */
export function byCommand<T>(
  db: Db,
  named: string,
  { kind, told, who = '' }: ByCommand,
  work: (tx: Tx, owner: PersonRow, now: number) => T,
): T {
  const owner = findPersonByName(db, named)
  if (!owner) throw new Refusal('not-found', `There is nobody called ${named} here${who}.`)
  const at = Date.now()
  // What is read first would else be of a state that somebody else's write has left behind, and the write be refused.
  return db.transaction(
    (tx) => {
      const value = work(tx, owner, at)
      const about = { personId: owner.id, byId: null, projectId: null, address: 'command line' }
      addSecurityEvent(tx, { ...about, at, kind, told: told(owner) })
      return value
    },
    { behavior: 'immediate' },
  )
}
