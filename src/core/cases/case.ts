import { z } from 'zod'

export const importances = ['Critical', 'High', 'Medium', 'Low'] as const
export const importance = z.enum(importances)
export const automations = ['Manual', 'Candidate', 'Automated'] as const
export const automation = z.enum(automations)
export const versionStates = ['Draft', 'In review', 'Approved'] as const
export const versionState = z.enum(versionStates)

/** Minutes for a case nobody has estimated yet: two to set up and one and a half a step. */
export const guessedMinutes = (steps: number): number => Math.max(2, Math.round(2 + steps * 1.5))
