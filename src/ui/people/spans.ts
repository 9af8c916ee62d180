const day = 86_400_000

/** Times that can be asked for, told after `when`, such as `of` the last day. */
export const spans = (when: string): { value: string; label: string }[] => [
  { value: '', label: 'ever' },
  { value: '1', label: `${when} the last day` },
  { value: '7', label: `${when} the last 7 days` },
  { value: '30', label: `${when} the last 30 days` },
]

/** The instant from which such a time is asked for, whole minutes so that the same is asked again; nothing for ever. */
export const fromOf = (days: string, at: number): { from?: number } =>
  Number(days) > 0 ? { from: Math.floor(at / 60_000) * 60_000 - Number(days) * day } : {}
