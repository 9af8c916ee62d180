import { join } from 'node:path'
import Database from 'better-sqlite3'
import { type BetterSQLite3Database, drizzle } from 'drizzle-orm/better-sqlite3'

export type Db = BetterSQLite3Database & { readonly $client: Database.Database }
/** What a query function works in: a transaction, or the database itself where one statement is enough. */
export type Tx = Pick<Db, 'select' | 'insert' | 'update' | 'delete' | 'all' | 'get' | 'run'>

export const databaseFile = (data: string): string => join(data, 'rovant.db')
export const evidenceFolder = (data: string): string => join(data, 'evidence')

/** A text as it is compared when its case does not matter, in any script; a function of every connection too. */
export const folded = (text: unknown): string | null => (typeof text === 'string' ? text.toLowerCase() : null)

/** Opens the database of a data directory. What is acknowledged must be on disk, hence synchronous FULL. */
export function openDatabase(file: string, options: { readonly readonly?: boolean } = {}): Db {
  const sqlite = new Database(file, { readonly: options.readonly ?? false, timeout: 10_000 })
  if (!options.readonly) sqlite.pragma('journal_mode = WAL')
  sqlite.pragma('synchronous = FULL')
  sqlite.pragma('foreign_keys = ON')
  sqlite.pragma('cache_size = -65536')
  sqlite.pragma('temp_store = MEMORY')
  sqlite.function('folded', { deterministic: true }, folded)
  return drizzle({ client: sqlite, casing: 'snake_case' })
}

/** So many pages wait in the log of writes ahead before a commit writes them back into the database itself; `null`: as SQLite has it. */
export const writeAheadAtMost = (db: Db, pages: number | null): void =>
  void db.$client.pragma(`wal_autocheckpoint = ${pages ?? 1000}`)

/** Writes back what stands in the log of writes ahead, as far as nobody reads it; nobody waits for it. */
export const writeBack = (db: Db): void => void db.$client.pragma('wal_checkpoint(PASSIVE)')

/** `home` is the folder of the checkout, so that the working directory does not matter. */
export const migrationsFolder = (home: string): string => join(home, 'src/db/migrations')
