import { standingOnBuild } from '#core/runs/standing.ts'
import { itemByAttempts, saveItem } from '#db/runs/items.ts'
import type { Tx } from '#db/open.ts'
import { dropStanding, finalAttempts, putStanding } from '#db/runs/standing.ts'

/** Makes an item what its attempts say. */
export const refreshItem = (tx: Tx, id: number): void => saveItem(tx, id, itemByAttempts(tx, id))

/** Works out again what stands for a case, an environment and a build, in the caller's transaction. */
export function refreshStanding(
  tx: Tx,
  { caseId, environmentId, buildId }: { caseId: number; environmentId: number; buildId: number },
): void {
  const place = { caseId, environmentId, buildId }
  const attempts = finalAttempts(tx, { place })
  const standing = standingOnBuild(attempts)
  const own = standing && attempts.find(({ id }) => id === standing.attempt.id)
  if (!standing || !own) return dropStanding(tx, place)
  putStanding(tx, {
    ...place,
    attemptId: own.id,
    verdict: standing.verdict,
    finishedAt: own.finishedAt,
    fingerprint: own.fingerprint,
    disputedBy: standing.disputedBy,
    doubted: own.doubted,
  })
}
