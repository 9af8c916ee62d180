import { isTaken } from './boundaries.ts'
import { filledIn, fulfils, outcomeText } from './decisions.ts'
import type { DraftModel, DraftRow } from './draft-row.ts'

const [accepted, refused] = ['it is accepted', 'it is refused']
const senseIf = (isRefused: boolean): string => (isRefused ? refused : accepted)

/**
 * What the case of a row says by a model: whether its values are accepted, or which outcome they have; `null` where the model says
 * nothing of the row, or nothing that could turn into its opposite.
 */
export function senseOf(model: DraftModel, row: DraftRow): string | null {
  switch (model.technique) {
    case 'boundaries': {
      const inputs = Object.entries(model.body.inputs)
      if (inputs.some(([name]) => row[name] === undefined)) return null
      return senseIf(inputs.some(([name, input]) => !isTaken(input, row[name] ?? '')))
    }
    case 'combos': {
      const names = Object.keys(model.body.parameters)
      const isBad = (name: string) => model.body.negative[name]?.includes(row[name] ?? '') ?? false
      const isKnown = (name: string) => model.body.parameters[name]?.includes(row[name] ?? '') || isBad(name)
      return names.every(isKnown) ? senseIf(names.some(isBad)) : null
    }
    case 'decisions': {
      const rules = model.body.rules.filter(({ when }) => fulfils(when, row))
      const outcomes = new Set(rules.map(({ then }) => outcomeText(filledIn(then))))
      const [only = ''] = outcomes
      return outcomes.size === 1 && only !== '' ? only : null
    }
    case 'paths':
      return null
  }
}

/** Why a case has to be changed: what it said when it was accepted is not what the model says now; `null` when it need not be. */
export function turned(model: DraftModel, row: DraftRow, said: string | null | undefined): string | null {
  if (said === null || said === undefined) return null
  const now = senseOf(model, row)
  return now === null || now === said ? null : `it says “${said}”, and by the model ${quoted(now)}`
}

const quoted = (sense: string): string =>
  sense === accepted || sense === refused ? `${sense} now` : `it is “${sense}” now`
