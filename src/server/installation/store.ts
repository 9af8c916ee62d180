import { type Db, databaseFile, migrate, openDatabase } from '#db/open.ts'

export interface Store {
  readonly db: Db
  readonly close: () => void
}

/** Opens and migrates the database of a data directory, for commands. */
export function openStore(data: string, home: string): Store {
  const db = openDatabase(databaseFile(data))
  migrate(db, home)
  return { db, close: () => void db.$client.close() }
}
