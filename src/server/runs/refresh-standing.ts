import { itemByAttempts, saveItem } from '#db/runs/items.ts'
import type { Tx } from '#db/open.ts'
import { learnMinutes } from '#server/schedule/learn-minutes.ts'
import { dropStanding, finalAttempts, putStanding, standsAmong } from '#db/runs/standing.ts'

/** Makes an item what its attempts say. */
export const refreshItem = (tx: Tx, id: number): void => saveItem(tx, id, itemByAttempts(tx, id))

/** Works out again what stands for a case, an environment and a build, and what its attempts teach, in the caller's transaction. */
export function refreshStanding(
  tx: Tx,
  { caseId, environmentId, buildId }: { caseId: number; environmentId: number; buildId: number },
): void {
  const place = { caseId, environmentId, buildId }
  const stands = standsAmong(finalAttempts(tx, { place }))
  if (stands) putStanding(tx, stands)
  else dropStanding(tx, place)
  learnMinutes(tx, place)
}
