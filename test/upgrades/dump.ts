import { readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type Database from 'better-sqlite3'
import { isRecord } from '#core/lib/record.ts'
import { home } from '#test/server.ts'
import { filledShop } from './world.ts'

// A filled database as text, so that what a migration meets can be read and compared. Made before a migration is written:
//   npx tsx test/upgrades/dump.ts

export const folder = fileURLToPath(new URL('.', import.meta.url))

/** The migrations in their order, by file name without its ending. */
export const migrations = (): string[] =>
  readdirSync(join(home, 'src/db/migrations'))
    .filter((name) => name.endsWith('.sql'))
    .map((name) => name.slice(0, -4))
    .sort()

/** The tables people's data are in; the index for searching fills itself by its triggers. */
export const tablesOf = (sqlite: Database.Database): string[] =>
  sqlite
    .prepare(
      `select name from pragma_table_list
       where schema = 'main' and type = 'table' and name not like 'sqlite_%' order by name`,
    )
    .pluck()
    .all()
    .map(String)

const literal = (value: unknown): string =>
  value === null ? 'NULL' : typeof value === 'number' ? String(value) : `'${String(value).replaceAll("'", "''")}'`

export function dump(sqlite: Database.Database): string {
  const schema = sqlite
    .prepare(
      `select sql from sqlite_schema
       where sql is not null and name not like 'sqlite_%'
         and name not in (select name from pragma_table_list where type = 'shadow')
       order by type <> 'table', type, name`,
    )
    .pluck()
    .all()
  const rows = tablesOf(sqlite).flatMap((table) =>
    sqlite
      .prepare(`select * from "${table}" order by 1, 2`)
      .all()
      .filter(isRecord)
      .map((row) => `INSERT INTO "${table}" VALUES (${Object.values(row).map(literal).join(', ')})`),
  )
  return `${[...schema, ...rows].map(String).join(';\n')};\n`
}

export const fixture = (name: string): string => readFileSync(join(folder, `${name}.sql`), 'utf8')

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const newest = migrations().at(-1) ?? ''
  writeFileSync(join(folder, `${newest}.sql`), dump((await filledShop()).$client))
}
