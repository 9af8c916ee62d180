import { z } from 'zod'

export const importances = ['Critical', 'High', 'Medium', 'Low'] as const
export type Importance = (typeof importances)[number]
export const importance = z.enum(importances)
export const automations = ['Manual', 'Candidate', 'Automated'] as const
export const automation = z.enum(automations)
export const versionStates = ['Draft', 'In review', 'Approved'] as const
export const versionState = z.enum(versionStates)

/** Minutes a case is guessed to take: to start, for each step, and at least. */
export const guess = { start: 2, aStep: 1.5, least: 2 } as const

/** Minutes for a case nobody has estimated yet: two to set up and one and a half a step. */
export const guessedMinutes = (steps: number): number =>
  Math.max(guess.least, Math.round(guess.start + steps * guess.aStep))
