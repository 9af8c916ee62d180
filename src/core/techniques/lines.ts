import { boundariesFromLines, boundariesLines } from './boundaries-lines.ts'
import { combosFromLines, combosLines } from './combos-lines.ts'
import { decisionsFromLines, decisionsLines } from './decisions-lines.ts'
import type { DraftModel } from './draft-row.ts'
import type { FromLines, LineProblem, Source } from './line-reader.ts'
import { pathsFromLines, pathsLines } from './paths-lines.ts'

/** The lines of any model, for one that came without them. */
export function linesOf(model: DraftModel): Source {
  if (model.technique === 'combos') return combosLines(model.body)
  if (model.technique === 'boundaries') return boundariesLines(model.body.inputs)
  return model.technique === 'decisions' ? decisionsLines(model.body) : pathsLines(model.body)
}

/** A model again after its lines have changed; what the lines do not say stays as it was. */
export function withLines(
  model: DraftModel,
  source: Source,
): {
  readonly model: DraftModel
  readonly problems: readonly LineProblem[]
  readonly placeOf: FromLines<unknown>['placeOf']
} {
  if (model.technique === 'combos') {
    const { body, ...rest } = combosFromLines(source, model.body.strength)
    return { model: { ...model, body }, ...rest }
  }
  if (model.technique === 'boundaries') {
    const { body, ...rest } = boundariesFromLines(source, model.body.values)
    return { model: { ...model, body }, ...rest }
  }
  if (model.technique === 'decisions') {
    const { body, ...rest } = decisionsFromLines(source, model.body.rules)
    return { model: { ...model, body }, ...rest }
  }
  const { body, ...rest } = pathsFromLines(source)
  return { model: { ...model, body }, ...rest }
}
