import { int, rowOf, rowsOf, text } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import type { Db } from '#db/open.ts'

export const copyDatabase = (db: Db, file: string): void => void db.$client.prepare('vacuum into ?').run(file)

/** The database's own checks, and that what is acknowledged is on disk. */
export function integrityProblems(db: Db): string[] {
  const synchronous = db.$client.pragma('synchronous', { simple: true })
  const journal = db.$client.pragma('journal_mode', { simple: true })
  const integrity = rowsOf(db, { integrity_check: text }, sql`pragma integrity_check`)
    .map((row) => row.integrity_check)
    .filter((line) => line !== 'ok')
  const foreign = rowsOf(db, { table: text }, sql`pragma foreign_key_check`)
  return [
    ...(synchronous === 2
      ? []
      : [`synchronous is ${String(synchronous)}, not FULL: an acknowledged verdict could be lost`]),
    ...(journal === 'wal' ? [] : [`the journal is ${String(journal)}, not a write-ahead log`]),
    ...integrity.map((line) => `database: ${line}`),
    ...(foreign.length > 0
      ? [`database: ${foreign.length} rows point at rows that are not there, first in ${foreign[0]?.table ?? ''}`]
      : []),
  ]
}

/** The search index must hold every title once. */
export function searchProblems(db: Db): string[] {
  const rows = rowOf(
    db,
    { kept: int, wanted: int },
    sql`
      select (select count(*) from search) as kept,
        (select count(*) from requirement) +
        (select count(*) from test_case) +
        (select count(*) from defect) as wanted`,
  )
  try {
    db.$client.prepare("insert into search(search) values ('integrity-check')").run()
  } catch (error) {
    return [`search index: ${error instanceof Error ? error.message : 'damaged'}`]
  }
  return rows && rows.kept === rows.wanted
    ? []
    : [`search index: ${rows?.kept ?? 0} entries for ${rows?.wanted ?? 0} objects`]
}
