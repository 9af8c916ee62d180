export const runStates = ['Planned', 'Open', 'Closed', 'Aborted'] as const
type RunState = (typeof runStates)[number]

/** Is it over, as it was meant or early? */
export const hasEnded = (state: RunState): state is 'Closed' | 'Aborted' => state === 'Closed' || state === 'Aborted'
