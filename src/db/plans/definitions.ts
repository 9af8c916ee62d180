import { sql } from 'drizzle-orm'
import { isRecord } from '#core/lib/record.ts'
import { groupBy } from '#core/lib/group.ts'
import type { SuiteDefinition } from '#core/plans/members.ts'
import { sourceKinds, suiteOrders } from '#core/plans/source.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, oneOf, type Row, rowsOf, text } from '#db/rows.ts'
import { isLiveCase } from '#db/rules.ts'

const sourceShape = {
  id: int,
  suiteId: int,
  position: int,
  kind: oneOf(sourceKinds),
  requirementId: maybe(int),
  includedId: maybe(int),
  words: text,
  filter: text,
  minutes: maybe(int),
  frozen: maybe(text),
  brokenAt: maybe(int),
}
export type SourceStored = Readonly<Row<typeof sourceShape>>

/** All sources of a project's suites that are there, in the order of each suite. */
export const sourcesOf = (tx: Tx, projectId: number): SourceStored[] =>
  rowsOf(
    tx,
    sourceShape,
    sql`
      select t.id, t.suite_id as suiteId, t.position, t.kind, t.requirement_id as requirementId,
        t.included_id as includedId, t.words, t.filter, t.minutes, t.frozen, t.broken_at as brokenAt
      from suite_source t
      join suite s on s.id = t.suite_id
      where t.project_id = ${projectId} and t.deleted_at is null and s.deleted_at is null
      order by t.suite_id, t.position, t.id`,
  )

/** A suite's definition with how it stands in order. */
export interface SuiteKept extends SuiteDefinition {
  readonly order: (typeof suiteOrders)[number]
}

/** How all suites of a project are defined, by id. */
export function suiteDefinitions(tx: Tx, projectId: number, sources: readonly SourceStored[]): Map<number, SuiteKept> {
  const of = groupBy(sources, ({ suiteId }) => suiteId)
  const pins = groupBy(
    rowsOf(
      tx,
      { suite: int, id: int },
      sql`
        select p.suite_id as suite, p.case_id as id
        from suite_pin p
        join suite s on s.id = p.suite_id
        join test_case c on c.id = p.case_id
        where s.project_id = ${projectId} and s.deleted_at is null and ${isLiveCase('c')}
        order by p.suite_id, p.position`,
    ),
    ({ suite }) => suite,
  )
  const excluded = groupBy(
    rowsOf(
      tx,
      { suite: int, id: int },
      sql`
        select x.suite_id as suite, x.case_id as id
        from suite_exclusion x
        join suite s on s.id = x.suite_id
        where s.project_id = ${projectId} and s.deleted_at is null`,
    ),
    ({ suite }) => suite,
  )
  const suites = rowsOf(
    tx,
    { id: int, order: oneOf(suiteOrders) },
    sql`
      select id, ordered_by as "order"
      from suite
      where project_id = ${projectId} and deleted_at is null`,
  )
  const ids = (all: readonly { id: number }[] | undefined) => (all ?? []).map(({ id }) => id)
  return new Map(
    suites.map(({ id, order }) => [
      id,
      {
        id,
        order,
        pins: ids(pins.get(id)),
        excluded: new Set(ids(excluded.get(id))),
        sources: (of.get(id) ?? []).map((source) => ({
          id: source.id,
          kind: source.kind,
          includes: source.includedId,
        })),
      },
    ]),
  )
}

/** A case chosen when the best in some minutes was frozen, and why. */
export interface Frozen {
  readonly case: number
  readonly why: string
}

export function frozenIn(json: string): Frozen[] {
  const read: unknown = JSON.parse(json)
  if (!Array.isArray(read)) throw new Error('what was frozen is no list')
  return read.flatMap((each) =>
    isRecord(each) && typeof each['case'] === 'number' ? [{ case: each['case'], why: String(each['why'] ?? '') }] : [],
  )
}
