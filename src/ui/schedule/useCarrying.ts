import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { isFinal } from '#core/lib/verdict.ts'
import { type Calendar, listDayItems } from '#core/schedule/calendar-contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'
import { type InRun, useMovingIn } from './useMoving.ts'

type DayItems = OutputOf<typeof listDayItems>

interface Cell {
  readonly person: string
  readonly day: string
}
/** What is taken from a day: all of it, what is of one run, or one item. */
export interface Carried extends Cell {
  readonly run?: string
  readonly item?: number
  readonly words: string
}

/** What is in the hand between two days: picked up from one, put down on another. */
export function useCarrying() {
  const { key } = useHere()
  const [carried, setCarried] = useState<Carried | null>(null)
  const move = useMovingIn()
  /** What of it is still to be executed, run by run, as it stands when it is put down. */
  const itemsOf = async ({ person, day, run, item }: Carried): Promise<InRun[]> => {
    const byRun = new Map<string, number[]>()
    const asked = { person, day, limit: 500 }
    let cursor: number | null = 0
    while (cursor !== null) {
      const page: DayItems = await call(listDayItems, { params: { key }, query: { ...asked, cursor } })
      for (const each of page.rows) {
        if (isFinal(each.verdict) || (run && each.run !== run) || (item && each.id !== item)) continue
        byRun.set(each.run, [...(byRun.get(each.run) ?? []), each.id])
      }
      cursor = page.next
    }
    return [...byRun].map(([ref, ids]) => ({ ref, ids }))
  }
  return {
    carried,
    pick: (what: Cell | Carried, loads: Calendar['loads'] = []) => {
      if ('words' in what) return setCarried(what)
      const items = loads.reduce((sum, load) => sum + load.items, 0)
      if (items === 0) return notify('Nothing on this day is still to be executed.')
      setCarried({ ...what, words: `${counted(items, 'item')} of ${dayText(what.day)}` })
    },
    drop: () => setCarried(null),
    put: async (to: Cell, what: Carried | null = carried) => {
      setCarried(null)
      if (!what || (what.person === to.person && what.day === to.day)) return
      try {
        const items = await itemsOf(what)
        if (items.length === 0) notify('Nothing of it is still to be executed; nothing was moved.')
        else await move(items, to)
      } catch (error) {
        notify(sentenceOf(error), { tone: 'problem' })
      }
    },
  }
}
