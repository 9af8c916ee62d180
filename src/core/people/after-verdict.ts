/** What comes at the desk when an item has its verdict: the next one by Enter, the next one at once, or the run again by Enter. */
export const afterVerdicts = ['next', 'at once', 'run'] as const

export const afterVerdictWords: Readonly<Record<(typeof afterVerdicts)[number], string>> = {
  next: 'the next in the queue, by Enter',
  'at once': 'the next in the queue, at once',
  run: 'the run again, by Enter',
}
