/** Where the attempts are that have a value. */
export const attemptsAddress = (key: string, field: 'case' | 'run' | 'build', value: number | string): string =>
  `/p/${key}/runs/attempts?filter=${encodeURIComponent(JSON.stringify({ field, op: 'is', values: [value] }))}`
