import * as contract from '#core/history/contract.ts'
import { on, onMany, onOpen, type Route } from '#server/http/route.ts'
import { readGoing, stopGoing } from './going.ts'
import { historyCsv, listHistory } from './list-history.ts'
import { restoreObject } from './restore-object.ts'
import { streamEvents } from './stream-events.ts'

/** What may be asked of this area, each endpoint once. */
export const historyRoutes: readonly Route[] = [
  on(contract.listHistory, listHistory),
  onOpen(contract.historyCsv, historyCsv),
  onOpen(contract.streamEvents, streamEvents),
  onMany(contract.restoreObject, restoreObject, (_, stopped) => ({ ok: true as const, stopped })),
  on(contract.readGoing, readGoing),
  on(contract.stopGoing, stopGoing),
]
