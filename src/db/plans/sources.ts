import { and, eq, sql } from 'drizzle-orm'
import type { SourceSaid } from '#core/plans/source.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import type { Frozen } from './definitions.ts'
import { suiteSource } from './tables.ts'

type Columns = Pick<
  typeof suiteSource.$inferInsert,
  'kind' | 'requirementId' | 'includedId' | 'words' | 'filter' | 'minutes' | 'frozen'
>

/** A source as its columns; `frozen` is what the best in some minutes held when it was frozen. */
export function sourceColumns(said: SourceSaid, frozen: readonly Frozen[] | null): Columns {
  const none = { requirementId: null, includedId: null, words: '', filter: '', minutes: null, frozen: null }
  switch (said.kind) {
    case 'branch':
      return { ...none, kind: said.kind, requirementId: said.requirement }
    case 'rule': {
      const filter = said.filter === null ? '' : JSON.stringify(said.filter)
      return { ...none, kind: said.kind, words: said.words, filter }
    }
    case 'suite':
      return { ...none, kind: said.kind, includedId: said.suite }
    case 'best':
      return {
        ...none,
        kind: said.kind,
        minutes: said.minutes,
        requirementId: said.requirement,
        frozen: frozen === null ? null : JSON.stringify(frozen),
      }
  }
}

export function addSourceTo(
  tx: Tx,
  of: { readonly projectId: number; readonly suiteId: number; readonly now: number },
  columns: Columns,
): number {
  const last =
    rowOf(tx, { n: maybe(int) }, sql`select max(position) as n from suite_source where suite_id = ${of.suiteId}`)?.n ??
    0
  return tx
    .insert(suiteSource)
    .values({ projectId: of.projectId, suiteId: of.suiteId, position: last + 1, createdAt: of.now, ...columns })
    .returning({ id: suiteSource.id })
    .get().id
}

export const saveSource = (tx: Tx, id: number, edit: Partial<typeof suiteSource.$inferInsert>): void =>
  void tx.update(suiteSource).set(edit).where(eq(suiteSource.id, id)).run()

/** A source of the suite, also one that was taken away. */
export const findSource = (tx: Tx, suiteId: number, id: number): typeof suiteSource.$inferSelect | undefined =>
  tx
    .select()
    .from(suiteSource)
    .where(and(eq(suiteSource.suiteId, suiteId), eq(suiteSource.id, id)))
    .get()

/** Which suites each suite of the project holds whole. */
export function includesOf(tx: Tx, projectId: number): Map<number, number[]> {
  const found = new Map<number, number[]>()
  for (const { suite, included } of rowsOf(
    tx,
    { suite: int, included: int },
    sql`
      select x.suite_id as suite, x.included_id as included
      from suite_source x
      join suite s on s.id = x.suite_id
      where x.project_id = ${projectId}
        and x.included_id is not null
        and x.deleted_at is null
        and s.deleted_at is null`,
  ))
    found.set(suite, [...(found.get(suite) ?? []), included])
  return found
}

/** Keys and titles of requirements and suites that sources name, deleted ones too. */
export function namesOf(
  tx: Tx,
  kind: 'requirement' | 'suite' | 'case',
  ids: readonly number[],
): Map<number, { id: number; key: string; title: string }> {
  const rows = rowsOf(
    tx,
    { id: int, key: text, title: text },
    sql`
      select id, ${keySql(kind, 'number')} as key, title
      from ${sql.identifier(kind === 'case' ? 'test_case' : kind)}
      where id in (select value from json_each(${JSON.stringify(ids)}))`,
  )
  return new Map(rows.map((row) => [row.id, row]))
}
