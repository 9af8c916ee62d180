import type { DraftProgress } from '#core/techniques/draft-answer.ts'
import { draft, type DraftInput } from '#core/techniques/draft.ts'
import { draftModel, type DraftRow } from '#core/techniques/draft-row.ts'
import { Refusal, type FieldProblem } from '#core/lib/refusal.ts'

export interface DraftAsk {
  readonly id: number
  /** `null` stops what is running. */
  readonly model: DraftInput | null
  readonly accepted: readonly DraftRow[]
  /** What each of them said when it was accepted. */
  readonly said: readonly (string | null)[]
}
export type DraftTold =
  | { readonly id: number; readonly kind: 'progress'; readonly covered: number; readonly rows: number }
  | {
      readonly id: number
      readonly kind: 'answer'
      readonly answer: NonNullable<DraftProgress['answer']>
      readonly took: number
      readonly done: boolean
    }
  | {
      readonly id: number
      readonly kind: 'refused'
      readonly sentence: string
      readonly fields: readonly FieldProblem[]
    }
  | { readonly id: number; readonly kind: 'stopped' }

let newest = 0
const tell = (message: DraftTold): void => postMessage(message)
/** Between two slices other messages are heard, so that newer lines or a stop take effect at once. */
const slice = 40
const pause = (): Promise<void> => new Promise((resolve) => setTimeout(resolve))

addEventListener('message', ({ data }: MessageEvent<DraftAsk>) => {
  newest = data.id
  void run(data)
})

async function run({ id, model, accepted, said }: DraftAsk): Promise<void> {
  if (model === null) return tell({ id, kind: 'stopped' })
  const began = performance.now()
  try {
    const search = draft(draftModel.parse(model), accepted, said)
    let told: DraftProgress['answer'] | undefined
    for (let until = performance.now() + slice; ;) {
      const step = search.next()
      if (step.done)
        return tell({ id, kind: 'answer', answer: step.value, took: performance.now() - began, done: true })
      if (step.value.answer) told = step.value.answer
      if (performance.now() < until) continue
      if (told) tell({ id, kind: 'answer', answer: told, took: performance.now() - began, done: false })
      else tell({ id, kind: 'progress', covered: step.value.covered, rows: step.value.rows })
      told = undefined
      await pause()
      if (id !== newest) return
      until = performance.now() + slice
    }
  } catch (error) {
    if (error instanceof Refusal)
      tell({ id, kind: 'refused', sentence: error.sentence, fields: error.detail.fields ?? [] })
    else
      tell({
        id,
        kind: 'refused',
        sentence:
          error instanceof Error ? `The model cannot be computed: ${error.message}` : 'The model cannot be computed.',
        fields: [],
      })
  }
}
