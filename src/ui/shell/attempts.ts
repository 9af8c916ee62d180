/** Where the attempts are that have a value. */
export const attemptsAddress = (key: string, field: 'case' | 'run' | 'build', value: number | string): string =>
  attemptsOf(key, JSON.stringify({ field, op: 'is', values: [value] }))

/** Where the attempts are that a filter lets through. */
export const attemptsOf = (key: string, filter: string): string =>
  `/p/${key}/runs/attempts?filter=${encodeURIComponent(filter)}`

/** Where an attempt is opened beside all others. */
export const attemptAddress = (key: string, id: number): string => `/p/${key}/runs/attempts?attempt=${id}`
