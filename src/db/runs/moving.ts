import { sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf } from '#db/rows.ts'

// Evidence, defects and words that go along when what was recorded goes elsewhere.

/** What one attempt has is there at another one too; which step it was of is not known there. */
export function copyToAttempt(
  tx: Tx,
  of: { readonly from: number; readonly to: number; readonly itemId: number; readonly caseId: number },
  at: number,
): void {
  tx.run(sql`
    insert into attachment (project_id, owner_kind, owner_id, hash, name, mime, size, at, person_id)
    select project_id, owner_kind, ${of.to}, hash, name, mime, size, at, person_id
    from attachment
    where owner_kind = 'attempt' and owner_id = ${of.from} and deleted_at is null
    order by id`)
  tx.run(sql`
    insert into defect_link (defect_id, attempt_id, "row", item_id, case_id, from_at)
    select distinct defect_id, ${of.to}, 1, ${of.itemId}, ${of.caseId}, ${at}
    from defect_link
    where attempt_id = ${of.from} and until_at is null
    order by defect_id`)
  endDefectLinks(tx, of.from, at)
}

export const endDefectLinks = (tx: Tx, attempt: number, at: number): void =>
  void tx.run(sql`update defect_link set until_at = ${at} where attempt_id = ${attempt} and until_at is null`)

/** When a defect was last taken from an attempt. */
export const lastLinkEnd = (tx: Tx, attempt: number): number | null =>
  rowOf(tx, { at: maybe(int) }, sql`select max(until_at) as at from defect_link where attempt_id = ${attempt}`)?.at ??
  null

/** Defects that were linked until an instant are linked again. */
export const linkAgain = (tx: Tx, attempt: number, endedAt: number): void =>
  void tx.run(sql`update defect_link set until_at = null where attempt_id = ${attempt} and until_at = ${endedAt}`)

/** Defects of an attempt go with it to another item of its case. */
export const moveDefectLinks = (tx: Tx, attempt: number, itemId: number): void =>
  void tx.run(sql`update defect_link set item_id = ${itemId} where attempt_id = ${attempt}`)

/** What was said, kept and linked at two data rows changes places. */
export function swapStoredRows(tx: Tx, attempt: number, one: number, other: number): void {
  const to = sql`case "row" when ${one} then ${other} else ${one} end`
  const either = sql`"row" in (${one}, ${other})`
  // Nothing may stand twice in one place, also on the way.
  tx.run(sql`update attempt_step set "row" = -${to} where attempt_id = ${attempt} and ${either}`)
  tx.run(sql`update attempt_step set "row" = -"row" where attempt_id = ${attempt} and "row" < 0`)
  tx.run(sql`update defect_link set "row" = ${to} where attempt_id = ${attempt} and ${either}`)
  tx.run(sql`update attachment set "row" = ${to} where owner_kind = 'attempt' and owner_id = ${attempt} and ${either}`)
}
