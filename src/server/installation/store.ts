import { type Db, databaseFile, migrationsFolder, openDatabase } from '#db/open.ts'
import { upgrade } from '#db/upgrade.ts'

export interface Store {
  readonly db: Db
  readonly close: () => void
}

/** Opens and migrates the database of a data directory, for commands. */
export function openStore(data: string, home: string): Store {
  const db = openDatabase(databaseFile(data))
  upgrade(db, migrationsFolder(home))
  return { db, close: () => void db.$client.close() }
}
