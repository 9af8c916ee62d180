const minute = 60_000

/** An attempt stalls when nothing was said in it for so long, or three times as long as its item should take. Minutes. */
const quiet = { least: 30, ofPlanned: 3 }

/**
 * Whether an attempt that goes on has come to a stop.
 * @param last when something was said in it, in milliseconds UTC
 * @param planned minutes of its item
 */
export const isStalled = (last: number, planned: number, now: number): boolean =>
  now - last > Math.max(quiet.least, quiet.ofPlanned * planned) * minute
