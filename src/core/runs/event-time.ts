/** What a client says of an event's time, in milliseconds of its own clock. */
export interface Claim {
  readonly at: number
  /** When it was sent, by the same clock; a clock that is wrong is wrong alike in both. */
  readonly sent?: number | undefined
}
export interface EventTime {
  /** Milliseconds UTC. */
  readonly at: number
  /** The claim could not be: the time is that of arrival. */
  readonly doubtful: boolean
}

/** How long an event may lie in a browser before its time is not believed. */
export const longestWait = 30 * 86_400_000
/** A clock may be set by this much between the event and its sending, or the start be told late. */
const slack = 2000

/**
 * When an event happened, from a client's claim: corrected by how far its clock is from the server's at the sending, and
 * believed only between the attempt's start (30 days back at the most) and now; else the time is that of arrival.
 */
export function eventTime(claim: Claim, { startedAt, now }: { startedAt: number; now: number }): EventTime {
  const offset = claim.sent === undefined ? 0 : now - claim.sent
  const at = claim.at + offset
  const earliest = Math.max(startedAt, now - longestWait)
  if (!Number.isFinite(at) || at > now + slack || at < earliest - slack) return { at: now, doubtful: true }
  return { at: Math.min(now, Math.max(earliest, at)), doubtful: false }
}

/** How an event stands to the closing of its run. */
export const arrivals = ['in time', 'late', 'after the close', 'amended'] as const
export type Arrival = (typeof arrivals)[number]

/**
 * An event that happened before its run was closed and came after it counts, marked late; one that happened after it does not,
 * unless whoever sent it may amend results until then. Instants in milliseconds UTC.
 */
export function arrivalOf(at: number, closedAt: number | null, amendableUntil: number | null = null): Arrival {
  if (closedAt === null) return 'in time'
  if (at < closedAt) return 'late'
  return amendableUntil !== null && at <= amendableUntil ? 'amended' : 'after the close'
}

export const counts = (arrival: Arrival): boolean => arrival !== 'after the close'
