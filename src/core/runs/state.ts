export const runStates = ['Planned', 'Open', 'Closed', 'Aborted'] as const
