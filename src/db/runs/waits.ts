import { type SQL, sql } from 'drizzle-orm'
import { type Wait, waitKinds } from '#core/runs/waits.ts'
import { groupBy } from '#core/lib/group.ts'
import { inIds } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { isOpenDefect, isOpenVerdict, isRepairedDefect } from '#db/rules.ts'
import { itemWait } from './tables.ts'

// What items of a run wait for. Nothing of it is stored but what somebody said: whether it is over is told by what it waits for.

/** A defect holds nothing any more when its repair is there to be tried, or nothing is to be done about it. */
const defectOver: SQL = sql`(d.deleted_at is not null or ${isRepairedDefect('d.state')} or not (${isOpenDefect('d.state')}))`

/** What items `h` that a condition chooses wait for: the item, what for, and whether that has come. */
const waitsOf = (which: SQL): SQL => sql`
  select h.id as item, 'defect' as kind, ${keySql('defect', 'd.number')} as key, ${defectOver} as over
  from item h
  join item_wait w on w.item_id = h.id
  join defect d on d.id = w.defect_id
  where ${which}
  union all
  select h.id, 'defect', ${keySql('defect', 'd.number')}, ${defectOver}
  from item h
  join defect_link l on l.attempt_id = h.attempt_id
  join defect d on d.id = l.defect_id
  where ${which} and h.verdict = 'Blocked' and l.until_at is null and d.deleted_at is null
  union all
  select h.id, 'item', ${keySql('case', 'k.number')}, x.deleted_at is not null or x.verdict = 'Passed'
  from item h
  join item_wait w on w.item_id = h.id
  join item x on x.id = w.other_item_id
  join test_case k on k.id = x.case_id
  where ${which}
  union all
  select h.id, 'case', ${keySql('case', 'k.number')}, not (${isOpenVerdict('x.verdict')})
  from item h
  join case_version v on v.case_id = h.case_id and v.major is null
  join case_need n on n.version_id = v.id
  join item x on x.run_id = h.run_id and x.case_id = n.case_id and x.environment_id = h.environment_id
  join test_case k on k.id = n.case_id
  where ${which} and h.verdict = 'Not run' and x.deleted_at is null`

/** What each of the items waits for, or waited for. */
export const waitsOfItems = (tx: Tx, ids: readonly number[]): Map<number, Wait[]> => {
  const rows = rowsOf(
    tx,
    { item: int, kind: oneOf(waitKinds), key: text, over: int },
    sql`select distinct * from (${waitsOf(inIds(sql`h.id`, ids))}) order by item, over, kind, key`,
  )
  return new Map(
    [...groupBy(rows, ({ item }) => item)].map(([item, own]) => [
      item,
      own.map(({ kind, key, over }) => ({ kind, key, over: over === 1 })),
    ]),
  )
}

/** The same of those items of a run that wait for anything: they are few, and looked for from what is waited for. */
export const waitsOfRun = (tx: Tx, runId: number): Map<number, Wait[]> =>
  waitsOfItems(
    tx,
    rowsOf(
      tx,
      { id: int },
      sql`
        select h.id
        from item_wait w
        cross join item h on h.id = w.item_id
        where h.run_id = ${runId}
        union
        select h.id
        from item h
        join defect_link l on l.attempt_id = h.attempt_id
        where h.run_id = ${runId} and h.deleted_at is null and h.verdict = 'Blocked'
        union
        select h.id
        from case_need n
        cross join case_version v on v.id = n.version_id and v.major is null
        cross join item h on h.case_id = v.case_id
        where h.run_id = ${runId} and h.verdict = 'Not run'`,
    ).map(({ id }) => id),
  )

const any = (which: SQL): SQL => sql`exists (select 1 from (${waitsOf(sql`h.id = i.id`)}) where ${which})`

/** Whether the item `i` waits, or did and can go on, as `waitState` tells it. */
export const waitOf: SQL = sql`
  case
    when not (${isOpenVerdict('i.verdict')}) and i.verdict <> 'Blocked' then null
    when ${any(sql`not over`)} then 'waiting'
    when ${any(sql`kind <> 'case'`)} then 'freed'
  end`

export interface SaidWait {
  readonly item: number
  readonly defect: number | null
  readonly other: number | null
}

/** What somebody said that items wait for. */
export const saidWaits = (tx: Tx, ids: readonly number[]): SaidWait[] =>
  rowsOf(
    tx,
    { item: int, defect: maybe(int), other: maybe(int) },
    sql`
      select item_id as item, defect_id as defect, other_item_id as other
      from item_wait
      where ${inIds(sql`item_id`, ids)}
      order by id`,
  )

/** Which items of a run wait for which others, by what was said. */
export const itemsWaited = (tx: Tx, runId: number): Map<number, number[]> => {
  const rows = rowsOf(
    tx,
    { item: int, other: int },
    sql`
      select w.item_id as item, w.other_item_id as other
      from item i
      join item_wait w on w.item_id = i.id
      where i.run_id = ${runId} and w.other_item_id is not null`,
  )
  return new Map([...groupBy(rows, ({ item }) => item)].map(([item, own]) => [item, own.map(({ other }) => other)]))
}

export const addWait = (tx: Tx, of: SaidWait, by: { readonly personId: string; readonly at: number }): void =>
  void tx
    .insert(itemWait)
    .values({ itemId: of.item, defectId: of.defect, otherItemId: of.other, ...by })
    .run()

export const dropWaits = (tx: Tx, ids: readonly number[]): void =>
  void tx.run(sql`delete from item_wait where ${inIds(sql`item_id`, ids)}`)

/** An item somebody may go on with, and whom that concerns. */
export interface Held {
  readonly item: number
  readonly case: string
  readonly environment: string
  readonly run: string
  /** Whose it is, else who blocked it, else who said that it waits. */
  readonly person: string | null
}

/** Items of open runs that wait, or waited, for a defect or for an item. */
export const heldBy = (tx: Tx, of: { readonly defect: number } | { readonly item: number }): Held[] =>
  rowsOf(
    tx,
    { item: int, case: text, environment: text, run: text, person: maybe(text) },
    sql`
      select i.id as item, ${keySql('case', 'c.number')} as "case", e.name as environment,
        ${keySql('run', 'u.number')} as run, coalesce(i.assignee_id, a.person_id, max(w.person_id)) as person
      from (
        ${
          'defect' in of
            ? sql`
              select item_id as item, person_id from item_wait where defect_id = ${of.defect}
              union
              select i.id, null
              from defect_link l
              join item i on i.id = l.item_id and i.attempt_id = l.attempt_id
              where l.defect_id = ${of.defect} and l.until_at is null and i.verdict = 'Blocked'`
            : sql`select item_id as item, person_id from item_wait where other_item_id = ${of.item}`
        }
      ) w
      join item i on i.id = w.item
      join run u on u.id = i.run_id
      join test_case c on c.id = i.case_id
      join environment e on e.id = i.environment_id
      left join attempt a on a.id = i.attempt_id
      where i.deleted_at is null and u.deleted_at is null and u.state = 'Open'
      group by i.id
      order by i.id`,
  )
