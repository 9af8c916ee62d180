import { findsAny, int, rowOf, rowsOf, text } from '#db/rows.ts'
import { type SQL, sql } from 'drizzle-orm'
import type { Db, Tx } from '#db/open.ts'
import { type Part, parts, richColumns, tableOfKind } from './archive-parts.ts'

type Row = Record<string, unknown>
export interface ArchiveManifest {
  readonly format: 'rovant-archive'
  readonly version: 1
  readonly project: Row
}

/** What can be read of a project, a table at a time: rows with numbers of the archive's own instead of ids, counted from 1 in every table. */
export function dumpProject(
  tx: Tx,
  projectId: number,
): {
  readonly manifest: ArchiveManifest
  readonly tables: Iterable<{ table: string; rows: Row[] }>
  readonly attachments: readonly string[]
} {
  const project =
    tx.get<Row>(
      sql`
        select name, product, time_zone, working_days, freshness_days, approval_required, reason_asked,
          factors, factor_rules, paths, dealing, switch_minutes, reserve_percent, worth_weights, smoke_suite_id,
          policy_id, created_at
        from project
        where id = ${projectId}`,
    ) ?? {}
  const persons = rowsOf(
    tx,
    { id: text, name: text, email: text },
    sql`
      select id, name, email
      from person
      where id in (${sql.join(personColumns(projectId), sql` union `)})
      order by email`,
  )
  const numbers = numbersOf(tx, projectId, persons)
  const owners = fieldOwners(tx, projectId)
  function* tables(): Iterable<{ table: string; rows: Row[] }> {
    yield { table: 'person', rows: persons.map(({ name: who, email }) => ({ name: who, email })) }
    for (const each of parts)
      yield {
        table: each.table,
        rows: tx
          .all<Row>(
            sql`select * from ${name(each.table)} where ${each.where(projectId)} order by ${sql.raw(each.order)}`,
          )
          .map((row) => moved(each, row, (table, value) => numbers.get(table)?.get(value) ?? null, owners)),
      }
  }
  return {
    manifest: {
      format: 'rovant-archive',
      version: 1,
      project: {
        ...project,
        smoke_suite_id: numbers.get('suite')?.get(project['smoke_suite_id']) ?? null,
        policy_id: numbers.get('policy')?.get(project['policy_id']) ?? null,
      },
    },
    tables: tables(),
    attachments: rowsOf(
      tx,
      { hash: text },
      sql`select distinct hash from attachment where project_id = ${projectId} order by 1`,
    ).map(({ hash }) => hash),
  }
}

/** The archive's own numbers of all that is in it, by table and id. */
function numbersOf(tx: Tx, projectId: number, persons: readonly { id: string }[]) {
  const counted = (ids: readonly { id: unknown }[]) => new Map(ids.map(({ id }, index) => [id, index + 1]))
  const numbers = new Map([['person', counted(persons)]])
  for (const { table, where, id } of parts)
    if (id)
      numbers.set(
        table,
        counted(rowsOf(tx, { id: int }, sql`select id from ${name(table)} where ${where(projectId)} order by id`)),
      )
  return numbers
}

const name = (table: string): SQL => sql.raw(`"${table}"`)

/** A select per column that names a person. */
function personColumns(projectId: number): SQL[] {
  return parts.flatMap(({ table, where, refs }) =>
    Object.entries(refs)
      .filter(([, ref]) => ref === 'person')
      .map(
        ([column]) =>
          sql`
            select ${sql.raw(column)}
            from ${name(table)}
            where ${where(projectId)} and ${sql.raw(column)} is not null`,
      ),
  )
}

const fieldOwners = (tx: Tx, projectId: number): ReadonlyMap<unknown, string> =>
  new Map(
    rowsOf(
      tx,
      { id: int, kind: text },
      sql`select id, owner_kind as kind from custom_field where project_id = ${projectId}`,
    ).map(({ id, kind }) => [id, kind]),
  )

/** A row with everything it points at told by `number`. */
function moved(
  of: Part,
  row: Row,
  number: (table: string, value: unknown) => unknown,
  owners: ReadonlyMap<unknown, string>,
): Row {
  const next: Row = { ...row }
  delete next['project_id']
  for (const [column, ref] of Object.entries(of.refs)) {
    const value = row[column]
    if (value === null || value === undefined) continue
    const kind =
      typeof ref === 'string' ? null : ref.by === '(field)' ? (owners.get(row['field_id']) ?? '') : String(row[ref.by])
    const table = typeof ref === 'string' ? ref : (tableOfKind[kind ?? ''] ?? '')
    next[column] = number(table, value) ?? (column === 'owner_id' && typeof ref !== 'string' ? 0 : null)
  }
  for (const [column, told] of Object.entries(of.within ?? {}))
    if (typeof row[column] === 'string') next[column] = told(row[column], number)
  if (of.id) next['id'] = number(of.table, row['id'])
  if (of.table === 'change' && /^\d+$/.test(String(row['ref'])))
    next['ref'] = String(number(row['kind'] === 'build' ? 'build' : 'item', Number(row['ref'])) ?? row['ref'])
  if (of.table === 'verdict_event')
    next['change'] = JSON.stringify(stepsMoved(JSON.parse(String(row['change'])), (value) => number('step', value)))
  return next
}

/** The marks within an event name steps. */
function stepsMoved(value: unknown, number: (value: unknown) => unknown): unknown {
  if (Array.isArray(value)) return value.map((each) => stepsMoved(each, number))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value).map(([key, own]) => [
      key,
      key === 'step' && typeof own === 'number' ? number(own) : stepsMoved(own, number),
    ]),
  )
}

interface Loading {
  readonly newPerson: () => string
  /** Makes rich text safe. */
  readonly clean: (html: string) => string
}

/** What a project itself points at, which comes after it. */
const pointOut = (tx: Tx, projectId: number, own: Row, number: (table: string, value: unknown) => unknown): void =>
  void tx.run(sql`
    update project
    set smoke_suite_id = ${number('suite', own['smoke_suite_id'])}, policy_id = ${number('policy', own['policy_id'])}
    where id = ${projectId}`)

/** Puts an archive's tables into a new project. People are found by their e-mail address; who is not here comes as a name that cannot sign in. */
export function loadProject(
  db: Db,
  key: string,
  manifest: ArchiveManifest,
  tables: ReadonlyMap<string, readonly Row[]>,
  { newPerson, clean }: Loading,
): { readonly rows: number } {
  return db.transaction(
    (tx) => {
      tx.run(sql`pragma defer_foreign_keys = on`)
      const own = manifest.project
      tx.run(
        sql`
          insert into project (
            key, name, product, time_zone, working_days, freshness_days, approval_required, reason_asked,
            factors, factor_rules, paths, dealing, switch_minutes, reserve_percent, worth_weights, created_at
          )
          values (
            ${key}, ${String(own['name'])}, ${String(own['product'])}, ${String(own['time_zone'])},
            ${String(own['working_days'])}, ${Number(own['freshness_days'])}, ${Number(own['approval_required'])},
            ${Number(own['reason_asked'] ?? 0)}, ${String(own['factors'] ?? '')},
            ${String(own['factor_rules'] ?? '')}, ${String(own['paths'] ?? '')}, ${String(own['dealing'] ?? 'evenly')},
            ${Number(own['switch_minutes'] ?? 0)}, ${Number(own['reserve_percent'] ?? 0)},
            ${String(own['worth_weights'] ?? '')}, ${Number(own['created_at'])}
          )`,
      )
      const projectId = rowOf(tx, { id: int }, sql`select id from project where key = ${key}`)?.id ?? 0
      const people = (tables.get('person') ?? []).map((row) =>
        personOf(tx, String(row['name']), String(row['email']), newPerson),
      )
      const offsets = new Map(
        parts
          .filter(({ id }) => id)
          .map(({ table }) => [
            table,
            rowOf(tx, { seq: int }, sql`select seq from sqlite_sequence where name = ${table}`)?.seq ?? 0,
          ]),
      )
      const number = (table: string, value: unknown): unknown =>
        table === 'person'
          ? (people[Number(value) - 1] ?? null)
          : offsets.has(table) && hasRow(tables, table, value)
            ? (offsets.get(table) ?? 0) + Number(value)
            : null
      pointOut(tx, projectId, own, number)
      const owners = new Map((tables.get('custom_field') ?? []).map((row) => [row['id'], String(row['owner_kind'])]))
      let rows = people.length
      for (const each of parts)
        rows += insertRows(tx, each, {
          projectId,
          key,
          rows: (tables.get(each.table) ?? []).map((row) =>
            cleanedRow(each.table, moved(each, memberOf(each.table, row), number, owners), clean),
          ),
        })
      return { rows }
    },
    { behavior: 'immediate' },
  )
}

/** A role is the person’s own here, whatever group gave it there; older archives say minutes of a day in place of a share of it. */
function memberOf(table: string, row: Row): Row {
  if (table !== 'membership') return row
  const minutes = row['minutes_per_day']
  const share = typeof minutes === 'number' ? { share_percent: Math.min(100, (minutes / usualMinutes) * 100) } : {}
  return { ...share, ...row, given_role: row['role'] }
}
/** What a day of usual hours gives: 480 minutes, of which 60 % are free for testing. */
const usualMinutes = 288

/** Whether the archive has so many rows of a table; a number beyond them would point at what is not of this project. */
function hasRow(tables: ReadonlyMap<string, readonly Row[]>, table: string, value: unknown): boolean {
  const number = Number(value)
  return Number.isInteger(number) && number >= 1 && number <= (tables.get(table)?.length ?? 0)
}

function cleanedRow(table: string, row: Row, clean: Loading['clean']): Row {
  const next = { ...row }
  for (const column of richColumns[table] ?? []) {
    const value = row[column]
    if (typeof value === 'string')
      next[column] = column in richWithin ? cleanedWithin(column, value, clean) : clean(value)
  }
  return next
}

/** Which texts are rich in a column of JSON, by the names they stand under; of the values of what is inserted, all are. */
const richWithin: Readonly<Record<string, readonly string[] | 'all'>> = {
  use_values: 'all',
  content: ['objective', 'preconditions', 'action', 'expected', 'data'],
}

function cleanedWithin(column: string, json: string, clean: Loading['clean']): string {
  if (json === '') return json
  const names = richWithin[column] ?? []
  return JSON.stringify(
    JSON.parse(json, (name, part: unknown) =>
      typeof part === 'string' && (names === 'all' || names.includes(name)) ? clean(part) : part,
    ),
  )
}

function personOf(tx: Tx, who: string, email: string, newPerson: () => string): string {
  const known = rowOf(tx, { id: text }, sql`select id from person where email = ${email}`)
  if (known) return known.id
  const id = newPerson()
  tx.run(
    sql`
      insert into person (id, name, email, email_verified, administrator, created_at, updated_at)
      values (${id}, ${who}, ${email}, 1, 0, 0, 0)`,
  )
  return id
}

function insertRows(tx: Tx, of: Part, into: { projectId: number; key: string; rows: readonly Row[] }): number {
  const known = new Set(
    rowsOf(tx, { name: text }, sql`select name from pragma_table_info(${of.table})`).map((column) => column.name),
  )
  const columns = [...new Set(into.rows.flatMap((row) => Object.keys(row)))].filter(
    (column) => known.has(column) && column !== 'project_id',
  )
  const list = [...columns, ...(known.has('project_id') ? ['project_id'] : [])]
  for (let from = 0; from < into.rows.length; from += 500) {
    const chunk = into.rows
      .slice(from, from + 500)
      .map((row) =>
        columns.map((column) =>
          of.table === 'verdict_event' && column === 'client_id' ? clientOf(tx, row, into.key) : (row[column] ?? null),
        ),
      )
    tx.run(
      sql`
        insert into ${name(of.table)} (${sql.raw(list.map((column) => `"${column}"`).join(', '))})
        select ${sql.raw(columns.map((_, index) => `j.value ->> ${index}`).join(', '))}${known.has('project_id') ? sql`, ${into.projectId}` : sql``}
        from json_each(${JSON.stringify(chunk)}) j`,
    )
  }
  return into.rows.length
}

/** Events are told apart by their client over the whole installation: beside the project they came from they get the new key before it. */
const clientOf = (tx: Tx, row: Row, key: string): string =>
  findsAny(
    tx,
    sql`
      select 1
      from verdict_event
      where client_id = ${String(row['client_id'])} and sequence = ${Number(row['sequence'])}`,
  )
    ? `${key}:${String(row['client_id'])}`
    : String(row['client_id'])
