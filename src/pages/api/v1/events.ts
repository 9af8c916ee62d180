import { streamEvents as streamEventsContract } from '#core/history/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { streamEvents } from '#server/history/stream-events.ts'

export const GET = openRoute(streamEventsContract, streamEvents)
