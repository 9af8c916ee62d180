import { dropWaiting, unfinishedActs } from '#db/formats/imports.ts'
import { dropLeftovers as drop } from '#db/formats/staging.ts'
import type { Store } from '#server/installation/store.ts'

/** What imports left that were cut off: staged rows, and contents that were never shown. */
export const dropLeftovers = (store: Store): void =>
  store.db.transaction((tx) => {
    drop(tx)
    for (const act of unfinishedActs(tx)) dropWaiting(tx, act)
  })
