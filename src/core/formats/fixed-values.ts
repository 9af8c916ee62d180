import { automations, importances } from '#core/cases/case.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'

/** Fields with fixed values; an empty one is left open. */
export const fixedValues = {
  importance: importances,
  automation: automations,
  kind: requirementKinds,
  state: requirementStates,
  priority: ['', '1', '2', '3', '4', '5'],
} as const
export type FixedField = keyof typeof fixedValues

/** The values of a field by its name; none of a field that holds anything. */
export const valuesOf = (field: string): readonly string[] =>
  new Map<string, readonly string[]>(Object.entries(fixedValues)).get(field) ?? []
