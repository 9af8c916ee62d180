export const suiteStates = ['Drafting', 'Active', 'Closed'] as const
export const planStates = ['Drafting', 'In review', 'Signed off', 'Closed'] as const
/** The five questions a plan answers, in their order; each is a part of it with an address. */
export const planParts = ['why', 'what', 'where', 'when', 'enough'] as const
export type PlanPart = (typeof planParts)[number]
