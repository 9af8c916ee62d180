import { and, eq, sql } from 'drizzle-orm'
import type { PlacedItem } from '#core/schedule/contract.ts'
import type { HeldSide } from '#core/schedule/held.ts'
import { inIds } from '#db/finding/list.ts'
import { isOpenVerdict } from '#db/rules.ts'
import { itemMinutes } from '#db/runs/items.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'
import { item, run } from '#db/runs/tables.ts'
import { itemPlace } from './tables.ts'

/** What an item takes of a day: as long as it is to be executed as many minutes as it has now, then what it had when it was put there. */
export const placedMinutes = sql`iif(${isOpenVerdict('i.verdict')}, ${itemMinutes}, w.minutes)`

/** Where items of a run are on people's days, in the order of these. */
export const placesOf = (tx: Tx, runId: number): PlacedItem[] =>
  rowsOf(
    tx,
    { item: int, person: text, day: text, start: int, minutes: int, pinned: int },
    sql`
      select w.item_id as item, w.person_id as person, w.day, w.start, ${placedMinutes} as minutes, w.pinned
      from item_place w
      join item i on i.id = w.item_id
      join test_case c on c.id = i.case_id
      where i.run_id = ${runId} and i.deleted_at is null
      order by w.day, w.person_id, w.start, w.item_id`,
  ).map(({ pinned, ...row }) => ({ ...row, pinned: pinned === 1 }))

/** Puts items on people's days and gives them to these people; others stay where they are. */
export function putPlaces(tx: Tx, places: readonly PlacedItem[]): void {
  const rows = JSON.stringify(places.map((of) => [of.item, of.person, of.day, of.start, of.minutes, of.pinned ? 1 : 0]))
  tx.run(sql`
    insert into item_place (item_id, person_id, day, start, minutes, pinned)
    select value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5
    from json_each(${rows})
    where true
    on conflict (item_id) do update set
      person_id = excluded.person_id, day = excluded.day, start = excluded.start, minutes = excluded.minutes,
      pinned = excluded.pinned`)
  putAssignees(
    tx,
    places.map(({ item: id, person }) => ({ item: id, person })),
  )
}

interface Assigned {
  readonly item: number
  readonly person: string | null
}
/** Gives items to people, where they are not theirs already. */
export const putAssignees = (tx: Tx, all: readonly Assigned[]): void =>
  void tx.run(sql`
    update item
    set assignee_id = new.person
    from (
      select value ->> 0 as item, value ->> 1 as person
      from json_each(${JSON.stringify(all.map((of) => [of.item, of.person]))})
    ) as new
    where item.id = new.item and item.assignee_id is not new.person`)

export const assigneesOf = (tx: Tx, ids: readonly number[]): { item: number; person: string | null }[] =>
  rowsOf(
    tx,
    { item: int, person: maybe(text) },
    sql`select id as item, assignee_id as person from item where ${inIds(sql`id`, ids)}`,
  )
export const dropPlaces = (tx: Tx, ids: readonly number[]): void =>
  void tx
    .delete(itemPlace)
    .where(inIds(sql`item_id`, ids))
    .run()

/** Items of a run among some ids, with the side of the line they were put on. */
export const heldItems = (tx: Tx, runId: number, ids: readonly number[]) =>
  tx
    .select({ id: item.id, side: item.held })
    .from(item)
    .where(and(eq(item.runId, runId), inIds(sql`id`, ids)))
    .all()
export const holdItems = (tx: Tx, ids: readonly number[], side: HeldSide | null): void =>
  void tx
    .update(item)
    .set({ held: side })
    .where(inIds(sql`id`, ids))
    .run()

export const setLine = (tx: Tx, runId: number, minutes: number | null): void =>
  void tx.update(run).set({ lineMinutes: minutes }).where(eq(run.id, runId)).run()
