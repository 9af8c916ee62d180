import { useEffect, useRef, useState } from 'react'
import { clockAttempt } from '#core/runs/note-contract.ts'
import type { DeskAttempt } from '#core/runs/desk-contract.ts'
import { call } from '#ui/call.ts'
import { useHere } from '#ui/shell/here.ts'

const flushEvery = 15

/** Seconds at the desk while the page is seen; told to the server every quarter of a minute. What somebody typed stays as it is. */
export function useClock(own: Pick<DeskAttempt, 'id' | 'seconds' | 'timing'> | null): number {
  const { key } = useHere()
  const attempt = own?.timing === 'typed' ? null : (own?.id ?? null)
  const before = own?.seconds ?? 0
  const [seconds, setSeconds] = useState(before)
  const owed = useRef(0)
  useEffect(() => {
    setSeconds((own) => Math.max(own, before))
    const flush = () => {
      if (attempt === null || owed.current < 1) return
      const sent = owed.current
      owed.current = 0
      void call(clockAttempt, { params: { key, id: attempt }, body: { seconds: sent }, keepalive: true }).catch(() => {
        owed.current += sent
      })
    }
    const tick = setInterval(() => {
      if (document.visibilityState !== 'visible') return
      setSeconds((own) => own + 1)
      owed.current += 1
      if (owed.current >= flushEvery) flush()
    }, 1000)
    return () => {
      clearInterval(tick)
      flush()
    }
  }, [attempt, key])
  return own?.timing === 'typed' ? before : seconds
}
