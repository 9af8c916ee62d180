import type { BodyOf, Contract, ParamsOf } from '#core/lib/contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from './answers.tsx'

/** Edits that say what they did, with the way back: the same asked again with what stood there before. Answers whether it is stored. */
export function useUndoable<C extends Contract>(
  contract: C,
  params?: ParamsOf<C>,
): (body: BodyOf<C>, told: string, back: BodyOf<C>) => Promise<boolean> {
  const { attempt } = useWrite(contract)
  const ask = (body: BodyOf<C>) => attempt({ ...(params !== undefined && { params }), body })
  return async (body, told, back) => {
    if ((await ask(body)) === null) return false
    notify(told, { undo: () => void ask(back) })
    return true
  }
}

/** One after the other: what takes several acts back. */
export const inTurn = (acts: readonly (() => Promise<unknown>)[]): Promise<unknown> =>
  acts.reduce((before, act) => before.then(act), Promise.resolve<unknown>(null))
