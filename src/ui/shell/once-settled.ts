import { useEffect, useState } from 'react'

/**
 * Does something once what is shown answers what was typed: a quick Enter takes what was asked for, not what the list said before.
 * @param settled what is shown answers what was typed
 * @param act done at once, or with what is shown then
 */
export function useOnceSettled(settled: boolean, act: () => void): () => void {
  const [waits, setWaits] = useState(false)
  useEffect(() => {
    if (!waits || !settled) return
    setWaits(false)
    act()
  }, [waits, settled, act])
  return () => (settled ? act() : setWaits(true))
}
