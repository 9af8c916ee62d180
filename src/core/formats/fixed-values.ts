import { automations, importances } from '#core/cases/case.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'

/** Fields with fixed values; an empty one is left open. */
export const fixedValues: Readonly<Record<string, readonly string[]>> = {
  importance: importances,
  automation: automations,
  kind: requirementKinds,
  state: requirementStates,
  priority: ['', '1', '2', '3', '4', '5'],
}
