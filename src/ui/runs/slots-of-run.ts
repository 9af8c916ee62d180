import { listItems } from '#core/runs/contract.ts'
import type { ItemRow } from '#core/runs/item-row.ts'
import { call } from '#ui/call.ts'

/** Cases and environments of a run's items, of all or of those a filter lets through, page after page. */
export const slotsOfRun = async (
  key: string,
  ref: string,
  filter?: string,
): Promise<{ case: number; environment: number }[]> =>
  (await itemsOfRun(key, ref, filter)).map((row) => ({ case: row.caseId, environment: row.environmentId }))

/** The same of those that are named. */
export const slotsOfItems = (key: string, ref: string, ids: readonly number[]): ReturnType<typeof slotsOfRun> =>
  slotsOfRun(key, ref, chosen(ids))

const chosen = (ids: readonly number[]): string => JSON.stringify({ field: 'id', op: 'is', values: ids })

/** The items themselves. */
export const itemsChosen = (key: string, ref: string, ids: readonly number[]): Promise<ItemRow[]> =>
  itemsOfRun(key, ref, chosen(ids))

/** Items of a run that a filter lets through, page after page. */
export async function itemsOfRun(key: string, ref: string, filter?: string): Promise<ItemRow[]> {
  const rows: ItemRow[] = []
  for (let cursor: number | null = 0; cursor !== null;) {
    const page: { rows: ItemRow[]; next: number | null } = await call(listItems, {
      params: { key, ref },
      query: { limit: 500, cursor, ...(filter !== undefined && { filter }) },
    })
    rows.push(...page.rows)
    cursor = page.next
  }
  return rows
}
