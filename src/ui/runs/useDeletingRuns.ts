import { counted } from '#core/lib/figures.ts'
import { restoreObject } from '#core/history/contract.ts'
import { deleteRuns } from '#core/runs/shape-contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

/** Deletes runs, told with what stays and the way back; answers whether they are deleted. `named` says how they are told of. */
export function useDeletingRuns(): (ids: readonly number[], named: string) => Promise<boolean> {
  const { key } = useHere()
  const deleting = useWrite(deleteRuns)
  const restoring = useWrite(restoreObject)
  return async (ids, named) => {
    const done = await deleting.attempt({ params: { key }, body: { ids: [...ids] } })
    if (!done) return false
    notify(`${named} deleted. ${attemptsStay(done.attempts)}`, {
      undo: () => void restoring.attempt({ params: { key }, body: { refs: done.refs } }),
    })
    return true
  }
}

/** What of deleted runs is left. */
export const attemptsStay = (attempts: number): string =>
  attempts === 0
    ? 'Nothing was executed there.'
    : `${counted(attempts, 'attempt')} ${attempts === 1 ? 'stays in history and counts' : 'stay in history and count'}.`
