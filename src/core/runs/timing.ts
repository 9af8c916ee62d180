/** Who says how long an attempt took: the clock of the desk, whoever typed it, or what was shared out over many at once. */
export const timings = ['clock', 'typed', 'shared'] as const
export type Timing = (typeof timings)[number]

/** In words behind a number of minutes. */
export const timingWords: Readonly<Record<Timing, string>> = {
  clock: 'at the desk',
  typed: 'typed by hand',
  shared: 'shared out over many',
}
