import { dropWaiting, unfinishedActs } from '#db/formats/imports.ts'
import { dropLeftovers as drop } from '#db/formats/staging.ts'
import { dropStagedRun, stagedRuns } from '#db/runs/runs.ts'
import type { Store } from '#server/installation/store.ts'
import { changedBy, reachedOf, settleAtOnce } from './settle-act.ts'

/** What imports and runs left that were cut off while they were made: staged rows, and contents that were never shown. What had happened stays, and can be taken back. */
export const dropLeftovers = (store: Store): void =>
  store.db.transaction((tx) => {
    drop(tx)
    for (const id of stagedRuns(tx)) dropStagedRun(tx, id)
    for (const act of unfinishedActs(tx)) {
      const intended = changedBy(act)
      if (intended.length === 0) dropWaiting(tx, act.id)
      else settleAtOnce(tx, act.id, { intended, done: reachedOf(tx, intended) })
    }
  })
