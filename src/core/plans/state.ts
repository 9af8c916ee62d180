export const suiteStates = ['Drafting', 'Active', 'Closed'] as const
export const planStates = ['Drafting', 'In review', 'Signed off', 'Closed'] as const
