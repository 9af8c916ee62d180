import { expect } from 'chai'
import { cpSync, existsSync, mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type Db, migrationsFolder, openDatabase } from '#db/open.ts'
import { verifyData } from '#server/installation/verify-data.ts'
import { memoryDb } from '#test/memory.ts'
import { home } from '#test/server.ts'
import { dump, fixture, migrations, tablesOf } from '#test/upgrades/dump.ts'
import { upgrade } from './upgrade.ts'

const own = migrationsFolder(home)
/** The first migration that a filled database was kept before. */
const firstKept = '0007_counters_by_prefix'

/** A filled database on disk as it was after a migration. */
function filled(after: string): Db {
  const db = openDatabase(join(mkdtempSync(join(tmpdir(), 'rovant-upgrade-')), 'rovant.db'))
  db.$client.exec(`PRAGMA foreign_keys = OFF; BEGIN; ${fixture(after)} COMMIT; PRAGMA foreign_keys = ON`)
  return db
}
const keptBefore = migrations().filter((name) => existsSync(join(home, 'test/upgrades', `${name}.sql`)))
const upToDate = (): Db => {
  const db = filled(keptBefore.at(-1) ?? '')
  upgrade(db, own)
  return db
}

/** Our migrations with one more, as its author might write it. */
function withMigration(statements: readonly string[]): string {
  const folder = mkdtempSync(join(tmpdir(), 'rovant-migrations-'))
  cpSync(own, folder, { recursive: true })
  const file = join(folder, 'meta/_journal.json')
  const journal: { entries: { when: number }[] } = JSON.parse(readFileSync(file, 'utf8'))
  const when = Math.max(...journal.entries.map((entry) => entry.when)) + 1
  const entry = { idx: journal.entries.length, version: '6', when, tag: '9999_next', breakpoints: true }
  writeFileSync(file, JSON.stringify({ ...journal, entries: [...journal.entries, entry] }))
  writeFileSync(join(folder, '9999_next.sql'), statements.join('\n--> statement-breakpoint\n'))
  return folder
}

const schemaOf = (db: Db, where: string): string[] =>
  db.$client
    .prepare(`select sql from sqlite_schema where sql is not null and ${where} order by type, name`)
    .pluck()
    .all()
    .map(String)
/** A table made anew with one column more, as the rebuilding of SQLite goes; `parts`: its indexes and triggers too. */
function rebuilt(db: Db, table: string, parts: boolean): string[] {
  const [made = ''] = schemaOf(db, `type = 'table' and name = '${table}'`)
  const columns = db.$client.prepare(`select group_concat('"' || name || '"') from pragma_table_info('${table}')`)
  const names = String(columns.pluck().get())
  return [
    'PRAGMA foreign_keys=OFF;',
    made.replace(/CREATE TABLE [`"]?\w+[`"]? \(/, `CREATE TABLE \`__new_${table}\` (\n\`added\` text,`),
    `INSERT INTO \`__new_${table}\`(${names}) SELECT ${names} FROM \`${table}\``,
    `DROP TABLE \`${table}\``,
    `ALTER TABLE \`__new_${table}\` RENAME TO \`${table}\``,
    ...(parts ? schemaOf(db, `type <> 'table' and tbl_name = '${table}'`) : []),
  ]
}
const refusal = (act: () => void): string => {
  try {
    act()
  } catch (error) {
    return error instanceof Error ? error.message : String(error)
  }
  return ''
}
const rows = (db: Db): Record<string, unknown> =>
  Object.fromEntries(
    tablesOf(db.$client)
      .filter((table) => table !== '__drizzle_migrations')
      .map((table) => [table, db.$client.prepare(`select count(*) from "${table}"`).pluck().get()]),
  )

it('has a filled database from before every migration', () => {
  const kept = migrations().filter((name) => name >= firstKept)
  const missing = kept.slice(0, -1).filter((name) => !existsSync(join(home, 'test/upgrades', `${name}.sql`)))
  expect(missing).to.deep.equal([])
})
for (const name of keptBefore)
  it(`brings the data of ${name} up to date, sound and whole`, async () => {
    const db = filled(name)
    const before = rows(db)
    upgrade(db, own)
    expect(rows(db)).to.deep.include(before)
    expect(await verifyData({ db, close: () => undefined }, 'none')).to.deep.equal([])
    const parts = "type in ('index', 'trigger') and tbl_name <> 'search'"
    expect(schemaOf(db, parts)).to.deep.equal(schemaOf(memoryDb(), parts))
  })
it('makes minutes of a day a share of the working day, and a role the person’s own', () => {
  const db = filled('0009_token_scope')
  db.$client.prepare("update membership set minutes_per_day = 120 where person_id = 'tester'").run()
  db.$client.prepare("update membership set minutes_per_day = 600 where person_id = 'lead'").run()
  upgrade(db, own)
  const told = (person: string) =>
    db.$client
      .prepare(
        `select m.role = m.given_role as own, p.working_minutes * p.free_percent * m.share_percent / 10000 as minutes
         from membership m join person p on p.id = m.person_id where p.id = ?`,
      )
      .get(person)
  expect(['tester', 'lead', 'viewer'].map(told)).to.deep.equal([
    { own: 1, minutes: 120 },
    { own: 1, minutes: 600 },
    { own: 1, minutes: 300 },
  ])
})
for (const table of ['person', 'test_case', 'build', 'link'])
  it(`rebuilds a filled ${table} without losing what points at it`, async () => {
    const db = upToDate()
    const before = rows(db)
    upgrade(db, withMigration(rebuilt(db, table, true)))
    expect(rows(db)).to.deep.equal(before)
    expect(db.$client.prepare(`select count(*) from "${table}" where added is null`).pluck().get()).to.equal(
      before[table],
    )
    expect(await verifyData({ db, close: () => undefined }, 'none')).to.deep.equal([])
    expect(db.$client.pragma('foreign_keys', { simple: true })).to.equal(1)
  })

const bad: readonly { name: string; statements: (db: Db) => readonly string[]; says: RegExp }[] = [
  {
    name: 'that forgets the triggers and indexes of what it rebuilds',
    statements: (db) => rebuilt(db, 'test_case', false),
    says: /index case_\w+ of test_case is gone and was not made again/,
  },
  {
    name: 'that loses rows',
    statements: () => ['CREATE TABLE kept AS SELECT * FROM comment', 'DELETE FROM main.comment'],
    says: /comment: 0 rows of 1 are left/,
  },
  {
    name: 'that leaves keys that point at nothing',
    statements: () => ["UPDATE account SET user_id = 'nobody'"],
    says: /5 rows point at rows that are not there/,
  },
  {
    name: 'that breaks in the middle',
    statements: () => ['ALTER TABLE person ADD COLUMN a text', 'ALTER TABLE nowhere ADD COLUMN b text'],
    says: /no such table: nowhere/,
  },
]
for (const { name, statements, says } of bad)
  it(`takes back a migration ${name}, and names the copy`, () => {
    const db = upToDate()
    const before = dump(db.$client)
    const sentence = refusal(() => upgrade(db, withMigration(statements(db))))
    expect(sentence).to.match(says)
    expect(sentence).to.match(/Everything is as it was before, and a copy is in .*before-upgrade-\d+\.db/)
    expect(dump(db.$client)).to.equal(before)
    expect(db.$client.pragma('foreign_keys', { simple: true })).to.equal(1)
    const copy = openDatabase(/copy is in (.*\.db)/.exec(sentence)?.[1] ?? '')
    expect(dump(copy.$client)).to.equal(before)
  })
it('lets a migration drop by name what is no longer wanted', () => {
  const db = upToDate()
  upgrade(db, withMigration(['DROP INDEX `attempt_build`', 'DROP TABLE IF EXISTS saved_view', 'DELETE FROM comment']))
  expect([rows(db)['comment'], rows(db)['saved_view'], rows(db)['item']]).to.deep.equal([0, undefined, 4])
})
it('keeps the copies of the last three upgrades, and makes none where nothing is new', () => {
  const db = upToDate()
  const folder = join(db.$client.name, '..')
  const copies = () => readdirSync(folder).filter((name) => name.startsWith('before-upgrade-'))
  const made = copies()
  upgrade(db, own)
  expect(copies()).to.deep.equal(made)
  const older = [1, 2, 3].map((n) => `before-upgrade-100000000000${n}.db`)
  for (const name of older) writeFileSync(join(folder, name), 'old')
  upgrade(db, withMigration(['SELECT 1']))
  expect(copies()).to.have.length(3)
  expect(copies()).not.to.include(older[0])
})
it('does not touch data that a newer version wrote', () => {
  const db = upToDate()
  upgrade(db, withMigration(['ALTER TABLE person ADD COLUMN later text']))
  expect(refusal(() => upgrade(db, own))).to.match(/written by a newer Rovant/)
})
