import { randomBytes } from 'node:crypto'
import { addPerson, countPeople } from '#db/people/people.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Tx } from '#db/open.ts'
import { readSetting, writeSetting } from '#db/installation/settings.ts'
import type { Store } from './store.ts'

const codeName = 'set-up code'

/** With no people yet, a one-time code by which the first administrator is set up; otherwise `null`. */
export async function offerFirstSetUp(store: Store): Promise<string | null> {
  if (countPeople(store.db) > 0) return null
  const code = randomBytes(6).toString('hex')
  writeSetting(store.db, codeName, code)
  return code
}

/** Makes the first administrator; the code works once. */
export function setUpFirst(
  db: Tx,
  of: { code: string; name: string; email: string; passwordHash: string; now: number },
): void {
  const code = readSetting(db, codeName)
  if (countPeople(db) > 0 || code === null || code !== of.code.trim())
    throw new Refusal('not-allowed', 'That code is not the one printed on the console, or it was used already.')
  addPerson(
    db,
    {
      id: `p-${randomBytes(6).toString('hex')}`,
      name: of.name,
      email: of.email.toLowerCase(),
      administrator: true,
      passwordHash: of.passwordHash,
    },
    of.now,
  )
  writeSetting(db, codeName, null)
}
