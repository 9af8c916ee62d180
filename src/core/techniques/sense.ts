import { isTaken } from './boundaries.ts'
import { outcomeText } from './decisions.ts'
import type { DraftModel, DraftRow } from './draft-row.ts'

const refusedOr = (refused: boolean): string => (refused ? 'it is refused' : 'it is accepted')

/**
 * What the case of a row says by a model: whether its values are accepted, or which outcome they have; `null` where the model says
 * nothing of the row, or nothing that could turn into its opposite.
 */
export function senseOf(model: DraftModel, row: DraftRow): string | null {
  switch (model.technique) {
    case 'boundaries': {
      const inputs = Object.entries(model.body.inputs)
      if (inputs.some(([name]) => row[name] === undefined)) return null
      return refusedOr(inputs.some(([name, input]) => !isTaken(input, row[name] ?? '')))
    }
    case 'combos': {
      const names = Object.keys(model.body.parameters)
      const isBad = (name: string) => model.body.negative[name]?.includes(row[name] ?? '') ?? false
      const isKnown = (name: string) => model.body.parameters[name]?.includes(row[name] ?? '') || isBad(name)
      return names.every(isKnown) ? refusedOr(names.some(isBad)) : null
    }
    case 'decisions': {
      const fits = (when: Readonly<Record<string, readonly string[]>>) =>
        Object.entries(when).every(([name, values]) => values.includes(row[name] ?? ''))
      const outcomes = new Set(model.body.rules.flatMap(({ when, then }) => (fits(when) ? [outcomeText(then)] : [])))
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
  /^it is (accepted|refused)$/.test(sense) ? `${sense} now` : `it is “${sense}” now`
