import { sql } from 'drizzle-orm'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf, rowsOf } from '#db/rows.ts'
import { fingerprintNow, withPolicy } from './spoiled.ts'

// What is in a run: coming in, going out, and in which order.

export interface NewItem {
  readonly case: number
  readonly environment: number
  /** With commas. */
  readonly reasons: string
  readonly assignee: string | null
}

/** Puts items into a run behind the first `after`, but for those that are in it by now; answers the ids of what came in. */
export const addItems = (tx: Tx, runId: number, items: readonly NewItem[], after: number): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      insert into item (run_id, case_id, environment_id, position, assignee_id, reasons, fingerprint)
      select u.id, c.id, n.value ->> 'environment', ${after} + n.key + 1, n.value ->> 'assignee',
        n.value ->> 'reasons', ${fingerprintNow}
      from json_each(${JSON.stringify(items)}) n
      join run u on u.id = ${runId}
      ${withPolicy}
      join test_case c on c.id = n.value ->> 'case'
      where true
      on conflict do nothing
      returning id`,
  ).map(({ id }) => id)

/** Puts items of a run into an order, those not named behind them as they stood; answers how many have another place. */
export const placeInOrder = (tx: Tx, runId: number, order: readonly number[]): number =>
  rowsOf(
    tx,
    { id: int },
    sql`
      with placed as (
        select i.id, row_number() over (order by j.key is null, j.key, i.position, i.id) as place
        from item i
        left join json_each(${JSON.stringify(order)}) j on j.value = i.id
        where i.run_id = ${runId} and i.deleted_at is null
      )
      update item
      set position = placed.place
      from placed
      where item.id = placed.id and item.position <> placed.place
      returning item.id`,
  ).length

export const lastPlace = (tx: Tx, runId: number): number =>
  rowOf(
    tx,
    { last: maybe(int) },
    sql`select max(position) as last from item where run_id = ${runId} and deleted_at is null`,
  )?.last ?? 0

interface Dropped {
  readonly changed: number
  /** How many of them had attempts. */
  readonly begun: number
}
const droppedOf = (rows: readonly { readonly attempt: number | null }[]): Dropped => ({
  changed: rows.length,
  begun: rows.filter(({ attempt }) => attempt !== null).length,
})

/** Takes items out of a run. */
export const dropItemsOf = (
  tx: Tx,
  runId: number,
  ids: readonly number[],
  of: { readonly at: number; readonly reason: string },
): Dropped =>
  droppedOf(
    rowsOf(
      tx,
      { attempt: maybe(int) },
      sql`
        update item
        set deleted_at = ${of.at}, dropped_reason = ${of.reason}
        where run_id = ${runId} and ${inIds(sql`id`, ids)} and deleted_at is null
        returning attempt_id as attempt`,
    ),
  )

/** Puts them back where nothing stands in their place. */
export const bringItemsBack = (tx: Tx, runId: number, ids: readonly number[]): Dropped =>
  droppedOf(
    rowsOf(
      tx,
      { attempt: maybe(int) },
      sql`
        update or ignore item
        set deleted_at = null, dropped_reason = ''
        where run_id = ${runId} and ${inIds(sql`id`, ids)} and deleted_at is not null
        returning attempt_id as attempt`,
    ),
  )
