export const suiteStates = ['Drafting', 'Active', 'Closed'] as const
export const planStates = ['Drafting', 'In review', 'Signed off', 'Closed'] as const
/**
 * `In review`: people were asked and have not all answered. `Withdrawn`: changed or taken back before they had. `Kept`: how the plan
 * stood when it was closed, or its release shipped.
 */
export const versionStates = ['In review', 'Sent back', 'Signed off', 'Withdrawn', 'Kept'] as const
export const signAnswers = ['approved', 'sent back'] as const
/** The five questions a plan answers, in their order; each is a part of it with an address. */
export const planParts = ['why', 'what', 'where', 'when', 'enough'] as const
export type PlanPart = (typeof planParts)[number]
/** The questions as people read them. */
export const questions: Readonly<Record<PlanPart, string>> = {
  why: 'Why?',
  what: 'What?',
  where: 'Where?',
  when: 'Who and when?',
  enough: 'When is it enough?',
}
