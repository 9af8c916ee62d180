import { readdirSync, renameSync, rmSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { sql } from 'drizzle-orm'
import { type MigrationMeta, readMigrationFiles } from 'drizzle-orm/migrator'
import { Refusal } from '#core/lib/refusal.ts'
import { copyDatabase } from '#db/installation/integrity.ts'
import type { Db } from '#db/open.ts'
import { int, rowOf, rowsOf, text } from '#db/rows.ts'

/** Copies kept of what was before an upgrade; older ones go. */
const mostCopies = 3
const copyStart = 'before-upgrade-'

/** What an upgrade must leave: rows, the triggers and indexes nobody dropped by name, and keys that point somewhere. */
interface Holdings {
  readonly rows: ReadonlyMap<string, number>
  /** The table of each trigger and index. */
  readonly parts: ReadonlyMap<string, string>
  readonly brokenKeys: number
}

/**
 * Brings the schema up to date. A database with something in it is copied beside itself first; the statements run
 * with foreign keys off, since rebuilding a table would else delete what points at it, and a pragma does nothing inside a
 * transaction (SQLite, "Making Other Kinds Of Table Schema Changes"). What is then not as it was and not dropped by name
 * takes everything back.
 */
export function upgrade(db: Db, folder: string): void {
  const known = readMigrationFiles({ migrationsFolder: folder })
  const newest = known.at(-1)?.folderMillis ?? 0
  const reached = reachedBy(db)
  if (reached > newest)
    throw new Refusal(
      'refused',
      'These data were written by a newer Rovant than this one; start that one, or restore a backup made before.',
    )
  if (reached === newest) return
  const copy = reached === 0 ? null : copyBeside(db, newest)
  db.$client.pragma('foreign_keys = OFF')
  try {
    db.$client.transaction(() => runMissing(db, known)).immediate()
  } catch (error) {
    throw new Refusal(
      'refused',
      `The data could not be upgraded: ${error instanceof Error ? error.message : String(error)}. Everything is as it was before${copy ? `, and a copy is in ${copy}` : ''}.`,
    )
  } finally {
    db.$client.pragma('foreign_keys = ON')
  }
}

/** When the newest migration that was run was written; 0 in a new database. */
function reachedBy(db: Db): number {
  db.run(
    sql`create table if not exists __drizzle_migrations (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric)`,
  )
  return rowOf(db, { at: int }, sql`select coalesce(max(created_at), 0) as at from __drizzle_migrations`)?.at ?? 0
}

function runMissing(db: Db, known: readonly MigrationMeta[]): void {
  // Asked again under the lock: two that start at once must not both upgrade.
  const reached = reachedBy(db)
  const missing = known.filter((each) => each.folderMillis > reached)
  const before = holdingsOf(db)
  for (const each of missing) {
    for (const statement of each.sql) db.$client.exec(statement)
    db.run(sql`insert into __drizzle_migrations (hash, created_at) values (${each.hash}, ${each.folderMillis})`)
  }
  const [problem] = lossesOf(before, holdingsOf(db), missing.flatMap((each) => each.sql).join('\n'))
  if (problem) throw new Error(problem)
}

function holdingsOf(db: Db): Holdings {
  const tables = rowsOf(
    db,
    { name: text },
    sql`
      select name
      from pragma_table_list
      where schema = 'main' and type in ('table', 'virtual') and name not like 'sqlite_%'`,
  )
  const parts = rowsOf(
    db,
    { name: text, of: text },
    sql`
      select type || ' ' || name as name, tbl_name as "of"
      from sqlite_schema
      where type in ('index', 'trigger') and name not like 'sqlite_%'`,
  )
  return {
    rows: new Map(tables.map(({ name }) => [name, rowsIn(db, name)])),
    parts: new Map(parts.map((part) => [part.name, part.of])),
    brokenKeys: rowsOf(db, { table: text }, sql`pragma foreign_key_check`).length,
  }
}

const rowsIn = (db: Db, table: string): number =>
  rowOf(db, { n: int }, sql`select count(*) as n from ${sql.identifier(table)}`)?.n ?? 0

/** What went without being named: a rebuilt table takes its triggers and indexes with it, and they must be made again. */
function lossesOf(before: Holdings, after: Holdings, statements: string): string[] {
  const says = (words: string) =>
    new RegExp(`${words.replaceAll(' ', `\\s+(?:if\\s+exists\\s+)?["'\`]?`)}\\b`, 'i').test(statements)
  const parts = [...before.parts]
    .filter(([part, table]) => !after.parts.has(part) && after.rows.has(table) && !says(`drop ${part}`))
    .map(([part, table]) => `${part} of ${table} is gone and was not made again`)
  const rows = [...before.rows]
    .filter(([table, n]) => (after.rows.get(table) ?? 0) < n && !says(`delete from ${table}`))
    .filter(([table]) => after.rows.has(table) || !says(`drop table ${table}`))
    .map(([table, n]) => `${table}: ${after.rows.get(table) ?? 0} rows of ${n} are left`)
  const broken = after.brokenKeys - before.brokenKeys
  return [...parts, ...rows, ...(broken > 0 ? [`${broken} rows point at rows that are not there`] : [])]
}

/** A copy beside the database, called by the migration it was made for; `null` where the database is in memory. */
function copyBeside(db: Db, newest: number): string | null {
  if (db.$client.memory) return null
  const folder = dirname(db.$client.name)
  const copy = join(folder, `${copyStart}${newest}.db`)
  const coming = `${copy}.coming`
  rmSync(coming, { force: true })
  copyDatabase(db, coming)
  renameSync(coming, copy)
  const copies = readdirSync(folder).filter((name) => name.startsWith(copyStart) && name.endsWith('.db'))
  for (const old of copies.sort().slice(0, -mostCopies)) rmSync(join(folder, old), { force: true })
  return copy
}
