import { counted, minutesText } from '#core/lib/figures.ts'
import { type LineAnswer, moveOnDays, restoreOnDays } from '#core/schedule/contract.ts'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import { inTurn } from '#ui/shell/undoable.ts'
import { byRun } from './line-figures.ts'

interface Day {
  readonly person: string
  readonly day: string
}
/** Items of one run, by its key. */
export interface InRun {
  readonly ref: string
  readonly ids: readonly number[]
}

/** Moves items to somebody's day and pins them there, run by run, with a way back. */
export function useMovingIn() {
  const { key, project } = useHere()
  const moving = useWrite(moveOnDays)
  const restoring = useWrite(restoreOnDays)
  return async (all: readonly InRun[], to: Day | null): Promise<boolean> => {
    const back: (() => Promise<unknown>)[] = []
    let [over, moved] = [0, 0]
    for (const { ref, ids } of all) {
      const params = { key, ref }
      const told = await moving.attempt({ params, body: { ids: [...ids], to } })
      if (!told) break
      back.push(() => restoring.attempt({ params, body: told.before }))
      // Each run is told of the whole day, so that the last of them knows most.
      over = told.over
      moved += ids.length
    }
    if (moved === 0) return false
    const name = shortName(project.people.find(({ id }) => id === to?.person)?.name ?? '')
    const words = to ? `on ${name}’s ${dayText(to.day)}` : 'on nobody’s day any more'
    notify(`${counted(moved, 'item')} ${words}${over > 0 ? `; that day is ${minutesText(over)} over` : ''}.`, {
      undo: () => void inTurn(back),
    })
    return back.length === all.length
  }
}

/** The same for items of a line. */
export function useMoving(of: LineAnswer) {
  const move = useMovingIn()
  return (ids: readonly number[], to: Day | null) => move(byRun(of, ids), to)
}
export type Moving = ReturnType<typeof useMoving>
