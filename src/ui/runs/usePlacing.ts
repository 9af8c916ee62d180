import { orderItems } from '#core/runs/contract.ts'
import { moved, type PlaceWay } from '#core/runs/place.ts'
import { placeItems } from '#core/runs/scope-contract.ts'
import { counted } from '#core/lib/figures.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

/** Moves items of a run in its order, told with the way back. What is filtered away keeps its place among the others. */
export function usePlacing(ref: string) {
  const { key } = useHere()
  const { attempt } = useWrite(placeItems)
  const params = { key, ref }
  const store = (order: readonly number[]) => attempt({ params, body: { order: [...order] } })
  return async (ids: readonly number[], to: PlaceWay | { readonly before: number }): Promise<void> => {
    try {
      const { ids: before } = await call(orderItems, { params, query: {} })
      const done = await store(moved(before, ids, to))
      if (!done) return
      if (done.moved === 0) notify('They stand there already.')
      else
        notify(`${counted(ids.length, 'item')} moved; the queue goes by this order.`, {
          undo: () => void store(before),
        })
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
}
