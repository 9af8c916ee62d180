import { channel } from 'node:diagnostics_channel'

/** Nothing may keep the process from everybody else for longer, in ms. */
export const longestHeld = 20

export interface Held {
  /** What held the process: the name of an endpoint or a job. */
  readonly name: string
  readonly ms: number
}

/** Where it is told; whoever watches the loop listens, also from another bundle of the same process. */
export const heldChannel = channel('rovant.held')

/** Does some work that cannot be interrupted, and tells when it took longer than it may. */
export function holding<T>(name: string, work: () => T): T {
  if (!heldChannel.hasSubscribers) return work()
  const began = performance.now()
  try {
    return work()
  } finally {
    const ms = performance.now() - began
    if (ms > longestHeld) heldChannel.publish({ name, ms } satisfies Held)
  }
}
