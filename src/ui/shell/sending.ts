import { type RefObject, useRef } from 'react'
import { clockText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'

/** Milliseconds from the last letter to storing, and to another try when the server was not reached. */
export const pause = 700
export const again = 3000
const mostTries = 3

/** What is stored as it is typed. */
export interface Sendable {
  dirty: boolean
  sending: boolean
  /** Nothing is sent until it is changed, when it was refused, or until one of both is chosen, when two wrote in one place. */
  halted: 'refused' | 'clash' | null
  timer: number
}

/** One store after the other; `attempt` answers how long to wait for the next. */
export function useSending<H extends Sendable>(held: RefObject<H>, attempt: (own: H) => Promise<number>) {
  const going = useRef(Promise.resolve())
  const wait = (ms: number) => {
    window.clearTimeout(held.current.timer)
    held.current.timer = window.setTimeout(() => void send(), ms)
  }
  const sendNow = async (own: H): Promise<void> => {
    own.sending = true
    own.dirty = false
    const next = await attempt(own)
    own.sending = false
    if (own.dirty && !own.halted) wait(next)
  }
  const send = (): Promise<void> => {
    const own = held.current
    window.clearTimeout(own.timer)
    if (own.dirty && !own.sending && !own.halted) going.current = sendNow(own)
    return going.current
  }
  /** Until all that is typed is stored, what somebody else stored meanwhile taken in, or it cannot be for now: is it? */
  const flush: Flush = async () => {
    for (let tries = 0; tries < mostTries; tries++) {
      await send()
      if (!held.current.dirty || held.current.halted) break
    }
    return !held.current.dirty && held.current.halted === null
  }
  return { wait, send, flush }
}

/** Stores what is typed and answers whether all of it is. */
export type Flush = () => Promise<boolean>
/** Where nothing is typed, nothing waits. */
export const nothingTyped: Flush = async () => true

/** For an act on what the server has: is all that is typed there? Otherwise the person is told that the act is not done. */
export async function allStored(flush: Flush): Promise<boolean> {
  const isSo = await flush()
  if (!isSo)
    notify('What you typed is not stored yet, so nothing is done: see what it says there.', { tone: 'problem' })
  return isSo
}

export const storedText = (at: number): string => `Stored ${clockText(at)}`
