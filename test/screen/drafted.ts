import { finished } from '#core/techniques/combos.ts'
import { draft, type DraftInput } from '#core/techniques/draft.ts'
import { draftModel, type DraftRow } from '#core/techniques/draft-row.ts'
import { Refusal } from '#core/lib/refusal.ts'

/** What the worker of the drafting table tells in the end. */
export function drafted(id: number, model: DraftInput, accepted: readonly DraftRow[]) {
  try {
    return { id, kind: 'answer', answer: finished(draft(draftModel.parse(model), accepted)), took: 1, done: true }
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    return { id, kind: 'refused', sentence: error.sentence, fields: error.detail.fields ?? [] }
  }
}
