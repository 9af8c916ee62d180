import { useEffect, useState } from 'react'
import type { OrderAnswer } from '#core/lib/shapes.ts'

export interface Ticks {
  readonly ticked: ReadonlySet<number>
  readonly all: boolean
  readonly tick: (id: number) => void
  readonly clear: () => void
  /** Ticks everything that fits, or nothing when all is ticked already. */
  readonly toggleAll: () => void
  readonly tickAll: () => void
}

const ticksWith = (before: ReadonlySet<number>, id: number): ReadonlySet<number> =>
  before.has(id) ? new Set([...before].filter((each) => each !== id)) : new Set([...before, id])

/** Which rows are ticked. All is more than the first rows: what is not counted yet is waited for. */
export function useTicks(counted: OrderAnswer, answer: OrderAnswer): Ticks {
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set())
  const [tickingAll, setTickingAll] = useState(false)
  useEffect(() => {
    if (!tickingAll || counted !== answer) return
    setTickingAll(false)
    setTicked(new Set(answer.ids))
  }, [tickingAll, counted, answer])
  const all = ticked.size > 0 && ticked.size === counted.total
  const clear = () => setTicked(new Set())
  const tickAll = () => setTickingAll(true)
  return {
    ticked,
    all,
    clear,
    tickAll,
    tick: (id) => setTicked((before) => ticksWith(before, id)),
    toggleAll: () => (all ? clear() : tickAll()),
  }
}
