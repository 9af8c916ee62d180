import { pinCases } from '#core/plans/suite-contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { howMany } from '#ui/shell/many.ts'

/** Pins cases to a suite, and says how many of them were not pinned before. */
export function usePinning() {
  const { key } = useHere()
  const { attempt } = useWrite(pinCases)
  return async (suite: { readonly key: string; readonly title: string }, ids: readonly number[]): Promise<void> => {
    const params = { key, ref: suite.key }
    const done = await attempt({ params, body: { addIds: [...ids] } })
    if (!done) return
    const { added, pins } = done
    const undo = () => void attempt({ params, body: { remove: added } })
    notify(`${howMany(added.length, ids.length, 'case')} pinned to ${suite.title}, which has ${pins} pinned now.`, {
      ...(added.length > 0 && { undo }),
    })
  }
}
