import { int, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { type Keyed, keyOf, readKey } from '#core/lib/key.ts'
import { sql } from 'drizzle-orm'
import { inIds, searchKind } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { contains } from './contains.ts'

const kinds = [
  { kind: 'requirement', table: 'requirement', title: 'title', remainder: searchKind.requirement },
  { kind: 'case', table: 'test_case', title: 'title', remainder: searchKind.case },
  { kind: 'defect', table: 'defect', title: 'title', remainder: searchKind.defect },
  { kind: 'run', table: 'run', title: 'title', remainder: null },
  { kind: 'plan', table: 'plan', title: 'title', remainder: null },
  { kind: 'routine', table: 'routine', title: 'title', remainder: null },
  { kind: 'suite', table: 'suite', title: 'title', remainder: null },
] as const

export interface Hit {
  readonly ref: string
  readonly kind: string
  readonly title: string
}

/** Objects by key, or by words in their titles: exact keys first, then the better match. */
export function searchObjects(tx: Tx, projectId: number, words: readonly string[], limit: number): Hit[] {
  if (words.length === 0) return []
  // A key is also found without its dash, as it is typed in a hurry.
  const key = words.length === 1 ? readKey((words[0] ?? '').replace(/^([a-z]{2})(\d)/, '$1-$2')) : null
  const exact = kinds
    .filter(({ kind }) => kind === key?.kind)
    .flatMap((of) => byNumber(tx, projectId, of, key?.number ?? 0))
  const rest = kinds.flatMap((of) =>
    of.remainder === null ? byTitle(tx, projectId, of, words, 4) : byIndex(tx, projectId, of, words, limit),
  )
  return [...exact, ...rest.filter(({ ref }) => !exact.some((each) => each.ref === ref))].slice(0, limit)
}

type Kind = (typeof kinds)[number]
const asHit = (of: Kind, { number, title }: { number: number; title: string }): Hit => ({
  ref: keyOf(of.kind, number),
  kind: of.kind,
  title,
})

const byNumber = (tx: Tx, projectId: number, of: Kind, number: number): Hit[] =>
  rowsOf(
    tx,
    { number: int, title: text },
    sql`
      select number, title
      from ${sql.raw(of.table)}
      where project_id = ${projectId} and number = ${number} and deleted_at is null`,
  ).map((row) => asHit(of, row))

function byTitle(tx: Tx, projectId: number, of: Kind, words: readonly string[], limit: number): Hit[] {
  const all = sql.join(
    words.map((word) => contains(sql`title`, word)),
    sql` and `,
  )
  return rowsOf(
    tx,
    { number: int, title: text },
    sql`
      select number, title
      from ${sql.raw(of.table)}
      where project_id = ${projectId} and deleted_at is null and ${all}
      order by number desc
      limit ${limit}`,
  ).map((row) => asHit(of, row))
}

function byIndex(tx: Tx, projectId: number, of: Kind, words: readonly string[], limit: number): Hit[] {
  if (words.some((word) => word.length < 3)) return byTitle(tx, projectId, of, words, limit)
  const phrase = words.map((word) => `"${word.replaceAll('"', '""')}"`).join(' ')
  return rowsOf(
    tx,
    { number: int, title: text },
    sql`
      select t.number, t.title
      from search s
      join ${sql.raw(of.table)} t on t.id = (s.rowid - ${of.remainder}) / 4
      where search match ${phrase}
        and s.rowid % 4 = ${of.remainder}
        and t.project_id = ${projectId}
        and t.deleted_at is null
      order by bm25(search, 4.0, 1.0)
      limit ${limit}`,
  ).map((row) => asHit(of, row))
}

/** The object behind a key such as TC-104, deleted or not; also by a key it had before it moved. */
export function objectOf(tx: Tx, projectId: number, ref: string): { kind: Keyed; id: number } | undefined {
  const key = readKey(ref)
  const of = kinds.find(({ kind }) => kind === key?.kind)
  if (!of || !key) return undefined
  const row = rowOf(
    tx,
    { id: int },
    sql`select id from ${sql.raw(of.table)} where project_id = ${projectId} and number = ${key.number}`,
  )
  return row
    ? { kind: of.kind, id: row.id }
    : rowOf(
        tx,
        { kind: oneOf(['run', 'plan', 'requirement', 'case', 'routine', 'suite', 'defect']), id: int },
        sql`select kind, owner_id as id from alias where project_id = ${projectId} and key = ${ref}`,
      )
}

export const hideRows = (
  tx: Tx,
  table: 'requirement' | 'test_case' | 'defect' | 'suite' | 'plan' | 'run' | 'routine',
  ids: readonly number[],
  now: number,
): void =>
  void tx.run(
    sql`
      update ${sql.raw(table)}
      set deleted_at = ${now}, version = version + 1
      where ${inIds(sql`id`, ids)} and deleted_at is null`,
  )

export function restoreByRef(tx: Tx, projectId: number, ref: string): { kind: Keyed; id: number } | undefined {
  const owner = objectOf(tx, projectId, ref)
  const table = kinds.find(({ kind }) => kind === owner?.kind)?.table
  if (!owner || !table) return undefined
  tx.run(sql`update ${sql.raw(table)} set deleted_at = null, version = version + 1 where id = ${owner.id}`)
  return owner
}
