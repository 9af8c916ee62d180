import { dropLeftovers as drop } from '#db/formats/staging.ts'
import type { Store } from '#server/people/store.ts'

export const dropLeftovers = (store: Store): void => store.db.transaction((tx) => void drop(tx))
