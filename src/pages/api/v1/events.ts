import { streamEvents as streamEventsContract } from '#core/people/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { streamEvents } from '#server/people/stream-events.ts'

export const GET = openRoute(streamEventsContract, streamEvents)
