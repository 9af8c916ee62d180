import type { z } from 'zod'
import { type DraftAnswer, type DraftProgress, spare, type Standing } from './draft-answer.ts'
import { boundariesDraft } from './draft-boundaries.ts'
import { combosDraft } from './draft-combos.ts'
import { decisionsDraft } from './draft-decisions.ts'
import { pathsDraft } from './draft-paths.ts'
import type { draftModel, DraftModel, DraftRow } from './draft-row.ts'
import { turned } from './sense.ts'

export type DraftInput = z.input<typeof draftModel>

/**
 * The cases a model yields beside those accepted from it, with a reason for each, and what has become of the accepted ones.
 * A generator: combinations get better while it runs; the others answer at once.
 * `said`: what each accepted row said when it was accepted (`senseOf`), in the same order; one that says the opposite by now answers nothing.
 */
export function* draft(
  model: DraftModel,
  accepted: readonly DraftRow[],
  said: readonly (string | null)[] = [],
): Generator<DraftProgress, DraftAnswer> {
  const why = accepted.map((row, at) => turned(model, row, said[at]))
  const whole = (answer: DraftAnswer): DraftAnswer => ({ ...answer, standing: withTurned(answer.standing, why) })
  const search = draftOf(
    model,
    accepted.filter((_, at) => why[at] === null),
  )
  for (;;) {
    const step = search.next()
    if (step.done) return whole(step.value)
    yield { ...step.value, ...(step.value.answer && { answer: whole(step.value.answer) }) }
  }
}

/** The standing of all accepted rows, from that of those that did not turn. */
function withTurned(standing: readonly Standing[], why: readonly (string | null)[]): Standing[] {
  let next = 0
  return why.map((each) => (each === null ? (standing[next++] ?? spare) : { state: 'changed', why: each }))
}

function* draftOf(model: DraftModel, accepted: readonly DraftRow[]): Generator<DraftProgress, DraftAnswer> {
  if (model.technique === 'combos') return yield* combosDraft(model.body, accepted)
  const answer = atOnce(model, accepted)
  yield { covered: 1, rows: answer.proposed.length, answer }
  return answer
}

type AtOnce = Exclude<DraftModel, { technique: 'combos' }>
function atOnce(model: AtOnce, accepted: readonly DraftRow[]): DraftAnswer {
  switch (model.technique) {
    case 'boundaries':
      return boundariesDraft(model.body, accepted)
    case 'decisions':
      return decisionsDraft(model, accepted)
    case 'paths':
      return pathsDraft(model, accepted)
  }
}
