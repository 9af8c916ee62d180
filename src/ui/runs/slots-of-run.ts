import { listItems } from '#core/runs/contract.ts'
import { call } from '#ui/call.ts'

/** Cases and environments of a run's items, of all or of those a filter lets through, page after page. */
export async function slotsOfRun(
  key: string,
  ref: string,
  filter?: string,
): Promise<{ case: number; environment: number }[]> {
  const slots: { case: number; environment: number }[] = []
  for (let cursor: number | null = 0; cursor !== null;) {
    const page: { rows: { caseId: number; environmentId: number }[]; next: number | null } = await call(listItems, {
      params: { key, ref },
      query: { limit: 500, cursor, ...(filter !== undefined && { filter }) },
    })
    slots.push(...page.rows.map((row) => ({ case: row.caseId, environment: row.environmentId })))
    cursor = page.next
  }
  return slots
}
