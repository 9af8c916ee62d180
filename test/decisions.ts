import { decisions } from '#core/techniques/decisions.ts'
import { draftModel, type DraftModel } from '#core/techniques/draft-row.ts'
import type { DecisionRule } from '#core/techniques/models.ts'

/** A decision table, and what the rules of the technique find in it. */
export function tableOf(conditions: Record<string, string[]>, rules: readonly DecisionRule[]) {
  const body = { conditions, rules: [...rules], impossible: [] }
  const model = draftModel.parse({ technique: 'decisions', body, per: 'rule' })
  return { model: model as Extract<DraftModel, { technique: 'decisions' }>, answer: decisions(body) }
}
