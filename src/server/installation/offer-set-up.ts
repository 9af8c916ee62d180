import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { addPerson, countPeople } from '#db/people/people.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Tx } from '#db/open.ts'
import { readSetting, writeSetting } from '#db/installation/settings.ts'
import { newPersonId } from '#server/http/secret.ts'
import type { Store } from './store.ts'

const codeName = 'set-up code'

/** With no people yet, a one-time code by which the first administrator is set up; otherwise `null`. */
export async function offerFirstSetUp(store: Store): Promise<string | null> {
  if (countPeople(store.db) > 0) return null
  const code = randomBytes(6).toString('hex')
  writeSetting(store.db, codeName, code)
  return code
}

/** Whether this is the code that was printed, and nobody used it yet; told in the same time whatever is wrong with it. */
export function isSetUpCode(db: Tx, code: string): boolean {
  const printed = readSetting(db, codeName)
  const same = timingSafeEqual(digest(code.trim()), digest(printed ?? ''))
  return same && printed !== null && countPeople(db) === 0
}

export const wrongCode = (): Refusal =>
  new Refusal('not-allowed', 'That code is not the one printed on the console, or it was used already.')

const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

/** Makes the first administrator; the code works once. */
export function setUpFirst(
  db: Tx,
  of: { code: string; name: string; email: string; passwordHash: string; now: number },
): void {
  if (!isSetUpCode(db, of.code)) throw wrongCode()
  addPerson(
    db,
    {
      id: newPersonId(),
      name: of.name,
      email: of.email.toLowerCase(),
      administrator: true,
      passwordHash: of.passwordHash,
    },
    of.now,
  )
  writeSetting(db, codeName, null)
}
