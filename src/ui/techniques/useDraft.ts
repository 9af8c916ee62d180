import { startTransition, useEffect, useRef, useState } from 'react'
import type { FieldProblem } from '#core/lib/refusal.ts'
import type { DraftAnswer } from '#core/techniques/draft-answer.ts'
import type { DraftModel, DraftRow } from '#core/techniques/draft-row.ts'
import type { DraftAsk, DraftTold } from './drafting.worker.ts'

export interface Drafted {
  readonly answer: DraftAnswer | null
  readonly refused: { readonly sentence: string; readonly fields: readonly FieldProblem[] } | null
  /** Milliseconds until what is shown was found. */
  readonly took: number
  readonly working: boolean
  readonly covered: number
  readonly stop: () => void
}

/** Between two drawings of better rows; a person reads meanwhile. */
const calm = 400

/** The cases of a model, computed in a worker while somebody types; what is older than the newest letter is dropped. */
export function useDraft(
  model: DraftModel | null,
  accepted: readonly DraftRow[],
  said: readonly (string | null)[],
): Drafted {
  const worker = useRef<Worker | null>(null)
  const asked = useRef(0)
  const [told, setTold] = useState<Omit<Drafted, 'stop'>>({
    answer: null,
    refused: null,
    took: 0,
    working: true,
    covered: 0,
  })
  useEffect(() => {
    const own = new Worker(new URL('./drafting.worker.ts', import.meta.url), { type: 'module' })
    let last = 0
    let waiting: ReturnType<typeof setTimeout> | undefined
    const show = (next: (before: Omit<Drafted, 'stop'>) => Omit<Drafted, 'stop'>) =>
      startTransition(() => setTold(next))
    own.addEventListener('message', ({ data }: MessageEvent<DraftTold>) => {
      if (data.id !== asked.current) return
      clearTimeout(waiting)
      if (data.kind === 'progress') show((before) => ({ ...before, covered: data.covered, working: true }))
      else if (data.kind === 'stopped') show((before) => ({ ...before, working: false }))
      else if (data.kind === 'refused') show((before) => ({ ...before, refused: data, working: false }))
      else {
        const { answer, took, done } = data
        const draw = () => {
          last = performance.now()
          show(() => ({ answer, refused: null, took, working: !done, covered: 1 }))
        }
        if (done || performance.now() - last > calm) draw()
        else waiting = setTimeout(draw, calm)
      }
    })
    worker.current = own
    return () => {
      clearTimeout(waiting)
      own.terminate()
    }
  }, [])
  const question = model === null ? null : JSON.stringify([model, accepted, said])
  useEffect(() => {
    if (model === null) return
    const ask: DraftAsk = { id: ++asked.current, model, accepted, said }
    setTold((before) => ({ ...before, working: true }))
    worker.current?.postMessage(ask)
  }, [question])
  const stop = () =>
    worker.current?.postMessage({ id: ++asked.current, model: null, accepted: [], said: [] } satisfies DraftAsk)
  return { ...told, stop }
}
