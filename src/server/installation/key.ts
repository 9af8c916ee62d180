import { createHash, randomBytes } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { readSetting, writeSetting } from '#db/installation/settings.ts'
import { dropAllFactors } from '#db/people/people.ts'
import { addSecurityEvent } from '#db/people/security.ts'
import type { Db } from '#db/open.ts'

/** The key of the installation, which signs cookies and seals secrets: made once per data directory and kept beside the database. */
export function keyOf(data: string): string {
  const file = join(data, 'secret')
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600 })
  return readFileSync(file, 'utf8').trim()
}

const printName = 'fingerprint of the key'

/**
 * Says whether the data were kept with another key, as after a restore without it. Second factors were sealed with that one and can be
 * read by nobody: they are taken away, so that their people come in by their passwords and set up new ones.
 */
export function settleKey(db: Db, key: string, now: number): void {
  const print = createHash('sha256').update(`print of ${key}`).digest('hex').slice(0, 24)
  const before = readSetting(db, printName)
  if (before === print) return
  db.transaction((tx) => {
    writeSetting(tx, printName, print)
    if (before === null) return
    const dropped = dropAllFactors(tx)
    addSecurityEvent(tx, {
      at: now,
      kind: 'setting',
      told: `The key of the installation is another one: sign-ins ended, sealed secrets are asked for again, ${dropped} second factors were taken away`,
      personId: null,
      byId: null,
      projectId: null,
      address: '',
    })
  })
}
