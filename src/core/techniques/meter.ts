import { combosProblem } from './combos-model.ts'
import { survey } from './combos-survey.ts'
import type { Asking } from './draft-answer.ts'
import { boundariesAsked } from './draft-boundaries.ts'
import { decisionsAsked } from './draft-decisions.ts'
import { pathsAsked } from './draft-paths.ts'
import type { DraftModel, DraftRow } from './draft-row.ts'
import { heldBy, ownersOfTuples } from './held-tuples.ts'
import type { CombosModel } from './models.ts'
import { OwnerSets, type SharedTargets } from './owner-sets.ts'
import { turned } from './sense.ts'

export interface Metered {
  readonly targets: number
  /** Targets that accepted rows answer. */
  readonly answered: number
  /** Whose rows answer them; `null` where they are too many to be told apart. */
  readonly by: readonly SharedTargets[] | null
}

interface Owned {
  readonly row: DraftRow
  readonly owner: number
}

/**
 * Targets of a model, how many of them accepted rows answer, and whose rows these are: the coverage meter, without any search.
 * @param said what each accepted row said when it was accepted (`senseOf`), in the same order
 * @param owners whose each row is (a case may hold several), whole numbers from 0 on; each its own when left out
 */
export function meter(
  model: DraftModel,
  accepted: readonly DraftRow[],
  said: readonly (string | null)[] = [],
  owners: readonly number[] = accepted.map((_, at) => at),
): Metered {
  const kept = accepted
    .flatMap((row, at): Owned[] => (turned(model, row, said[at]) === null ? [{ row, owner: owners[at]! }] : []))
    // Rows of one owner stand together, so that a target meets it once.
    .sort((a, b) => a.owner - b.owner)
  return model.technique === 'combos' ? combosMeter(model.body, kept) : meterOf(asked(model), kept)
}

function asked(model: Exclude<DraftModel, { technique: 'combos' }>): Asking {
  switch (model.technique) {
    case 'boundaries':
      return boundariesAsked(model.body)
    case 'decisions':
      return decisionsAsked(model)
    case 'paths':
      return pathsAsked(model)
  }
}

function meterOf({ all, goals }: Asking, kept: readonly Owned[]): Metered {
  const sets = new OwnerSets(kept.map(({ owner }) => owner))
  const answered = new Map<string, number>()
  for (const { row, owner } of kept) {
    const own = goals(row)
    if (typeof own === 'string') continue
    for (const goal of own) if (all.has(goal)) answered.set(goal, sets.with(answered.get(goal) ?? 0, owner))
  }
  return { targets: all.size, answered: answered.size, by: sets.shared(answered.values()) }
}

function combosMeter(body: CombosModel, kept: readonly Owned[]): Metered {
  const problem = combosProblem(body)
  const known = survey(
    problem,
    kept.map(({ row }) => row),
  )
  const { targets, answered } = heldBy(problem, known)
  const by = ownersOfTuples(
    known,
    kept.map(({ owner }) => owner),
  )
  return { targets, answered, by }
}
