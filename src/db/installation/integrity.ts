import Database from 'better-sqlite3'
import { int, rowOf, rowsOf, text } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import { counted } from '#core/lib/figures.ts'
import { searchKind } from '#db/finding/list.ts'
import type { Db, Tx } from '#db/open.ts'

export const copyDatabase = (db: Db, file: string): void => void db.$client.prepare('vacuum into ?').run(file)

/** Whether a file is a database of Rovant with something in it. */
export function isRovantDatabase(file: string): boolean {
  try {
    const sqlite = new Database(file, { readonly: true, fileMustExist: true })
    try {
      return Number(sqlite.prepare(`select count(*) from __drizzle_migrations`).pluck().get()) > 0
    } finally {
      sqlite.close()
    }
  } catch {
    // No database at all, or one without our tables.
    return false
  }
}

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
    ...integrity.map((line) => `database: ${line}; restore the newest backup that is sound`),
    ...(foreign.length > 0
      ? [
          `database: ${foreign.length} rows point at rows that are not there, first in ${foreign[0]?.table ?? ''}; restore the newest backup that is sound`,
        ]
      : []),
  ]
}

/** What is found by searching: each object's row in the index, as the triggers of the schema write it. */
const indexed = [
  { table: 'requirement', kind: searchKind.requirement, body: 'text' },
  { table: 'test_case', kind: searchKind.case, body: 'objective' },
  { table: 'defect', kind: searchKind.defect, body: 'text' },
] as const

/** The search index must hold every object once, with its present words. */
export function searchProblems(db: Db): string[] {
  try {
    db.$client.prepare("insert into search(search) values ('integrity-check')").run()
  } catch (error) {
    return [`search index: ${error instanceof Error ? error.message : 'damaged'}`]
  }
  return indexed.flatMap(({ table, kind, body }) => {
    const found = rowOf(
      db,
      { missing: int, other: int, left: int },
      sql`
        select coalesce(sum(s.rowid is null), 0) as missing,
          coalesce(sum(s.title <> o.title or s.body <> o.${sql.raw(body)}), 0) as other,
          (
            select count(*)
            from search x
            where x.rowid % 4 = ${kind} and not exists (select 1 from ${sql.raw(table)} where id = (x.rowid - ${kind}) / 4)
          ) as "left"
        from ${sql.raw(table)} o
        left join search s on s.rowid = o.id * 4 + ${kind}`,
    ) ?? { missing: 0, other: 0, left: 0 }
    const name = table === 'test_case' ? 'case' : table
    return [
      ...(found.missing > 0 ? [`search index: ${counted(found.missing, name)} cannot be found`] : []),
      ...(found.other > 0 ? [`search index: ${counted(found.other, name)} with words of before`] : []),
      ...(found.left > 0
        ? [`search index: ${counted(found.left, 'entry', 'entries')} of a ${name} that is not there`]
        : []),
    ]
  })
}

/** Writes the search index anew from the objects. */
export function rebuildSearch(tx: Tx): void {
  tx.run(sql`delete from search`)
  for (const { table, kind, body } of indexed)
    tx.run(sql`
      insert into search (rowid, title, body, project_id)
      select id * 4 + ${kind}, title, ${sql.raw(body)}, project_id
      from ${sql.raw(table)}`)
}
