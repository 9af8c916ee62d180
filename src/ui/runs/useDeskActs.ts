import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { addEvidence, type Desk } from '#core/runs/desk-contract.ts'
import { isFinal } from '#core/lib/verdict.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { go } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import type { Sayable } from './sayable.ts'
import { useDesk } from './useDesk.ts'

/** What the desk asks in a dialog: a new defect, what the whole is, or why it is that although a step failed. */
type Asking = 'defect' | 'whole' | Sayable | null
export type DeskActs = ReturnType<typeof useDeskActs>

/** What is done at the desk beside the verdicts of steps. */
export function useDeskActs(desk: Desk) {
  const { key } = useHere()
  const client = useQueryClient()
  const refresh = () => void client.invalidateQueries({ queryKey: ['readDesk'] })
  const own = useDesk(desk, refresh)
  const [asking, ask] = useState<Asking>(null)
  const file = useRef<HTMLInputElement>(null)
  const again = async () => {
    const made = await own.anew()
    if (!made) return
    notify(`A new attempt is started on ${made.build}; the one before is kept.`)
    refresh()
  }
  /** A whole with a failed step passes only with a reason. */
  const markWhole = async (of: Sayable) => {
    const failed = own.attempt?.marks.some((mark) => mark.verdict === 'Failed')
    const isAgainst = failed && own.attempt?.policy.decides === 'steps'
    if (isAgainst && (of.said.verdict === 'Passed' || of.said.verdict === 'Skipped')) ask(of)
    else if (await own.whole(of, null)) notify(`The whole item is ${of.label}.`)
  }
  return {
    own,
    asking,
    ask,
    file,
    refresh,
    attach: useAttach(desk, own),
    chooseFile: () => file.current?.click(),
    again: () => void again(),
    markWhole: (of: Sayable) => void markWhole(of),
    ...itemsOf(desk, key),
  }
}

/** Keeps a file with the step that is open. */
function useAttach(desk: Desk, own: ReturnType<typeof useDesk>): (blob: File) => Promise<void> {
  const { key } = useHere()
  const { row, step: at } = own.at
  const step = (own.attempt ?? desk.preview).steps[at]?.id
  return async (blob) => {
    const attempt = await own.begin()
    if (!attempt) return
    try {
      const evidence = await call(addEvidence, {
        params: { key, id: attempt.id },
        query: { row, name: blob.name || 'picture.png', ...(step != null && { step }) },
        file: blob,
      })
      own.patch((before) => ({ ...before, evidence: [...before.evidence, evidence] }))
      notify(`${evidence.name} is kept with step ${at + 1}.`)
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
}

/** The items before and after this one in the queue. */
function itemsOf({ queue, item }: Desk, key: string) {
  const at = queue.findIndex(({ id }) => id === item.id)
  const rest = queue.slice(at + 1)
  const toDo = rest.filter(({ verdict, waits }) => !isFinal(verdict) || waits === 'freed')
  const open = (id: number | undefined) => {
    if (id !== undefined) go({ path: `/p/${key}/desk/${id}` })
    else notify('That was the last item of the queue.')
  }
  return {
    rest,
    open,
    // What waits comes after all that does not.
    nextItem: () => open((toDo.find(({ waits }) => waits !== 'waiting') ?? toDo[0] ?? rest[0])?.id),
    previousItem: () => open(queue[at - 1]?.id),
  }
}
