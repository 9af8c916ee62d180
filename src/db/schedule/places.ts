import { and, eq, sql } from 'drizzle-orm'
import type { PlacedItem } from '#core/schedule/contract.ts'
import type { HeldSide } from '#core/schedule/held.ts'
import { inIds } from '#db/finding/list.ts'
import { int, rowsOf, text } from '#db/rows.ts'
import type { Tx } from '#db/open.ts'
import { item, run } from '#db/runs/tables.ts'
import { itemPlace } from './tables.ts'

/** Where items of a run are on people's days, in the order of these. */
export const placesOf = (tx: Tx, runId: number): PlacedItem[] =>
  rowsOf(
    tx,
    { item: int, person: text, day: text, start: int, minutes: int, pinned: int },
    sql`
      select w.item_id as item, w.person_id as person, w.day, w.start, w.minutes, w.pinned
      from item_place w
      join item i on i.id = w.item_id
      where i.run_id = ${runId} and i.deleted_at is null
      order by w.day, w.person_id, w.start, w.item_id`,
  ).map(({ pinned, ...row }) => ({ ...row, pinned: pinned === 1 }))

/** Puts items of a run on people's days and gives them to these people; all others of it are on nobody's day any more. */
export function putPlaces(tx: Tx, runId: number, places: readonly PlacedItem[]): void {
  const rows = JSON.stringify(places.map((of) => [of.item, of.person, of.day, of.start, of.minutes, of.pinned ? 1 : 0]))
  tx.run(sql`delete from item_place where item_id in (select id from item where run_id = ${runId})`)
  tx.run(sql`
    insert into item_place (item_id, person_id, day, start, minutes, pinned)
    select value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5
    from json_each(${rows})`)
  tx.run(sql`
    update item
    set assignee_id = (select w.person_id from item_place w where w.item_id = item.id)
    where run_id = ${runId} and id in (select item_id from item_place)
      and assignee_id is not (select w.person_id from item_place w where w.item_id = item.id)`)
}

export const putPlace = (tx: Tx, of: PlacedItem): void => {
  const { item: itemId, person: personId, ...rest } = of
  tx.insert(itemPlace)
    .values({ itemId, personId, ...rest })
    .onConflictDoUpdate({ target: itemPlace.itemId, set: { personId, ...rest } })
    .run()
  tx.update(item).set({ assigneeId: personId }).where(eq(item.id, itemId)).run()
}
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
