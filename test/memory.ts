import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fillDemo } from '#demo/fill.ts'
import { type Db, migrationsFolder, openDatabase } from '#db/open.ts'
import { upgrade } from '#db/upgrade.ts'
import { home } from './server.ts'

/** An empty, migrated database in memory. */
export function memoryDb(): Db {
  const db = openDatabase(':memory:')
  upgrade(db, migrationsFolder(home))
  return db
}

/** The demo in memory, as of a given day. */
export async function demoDb(now: number): Promise<Db> {
  const db = memoryDb()
  await fillDemo(db, {
    now,
    hash: async () => 'not used',
    evidence: mkdtempSync(join(tmpdir(), 'rovant-evidence-')),
    pictures: join(home, 'demo/pictures'),
  })
  return db
}
