import type { AskWay } from '#core/plans/asks.ts'

/** A way of asking for environments in words. */
export const wayWords: Readonly<Record<AskWay, string>> = {
  all: 'every environment',
  any: 'any one',
  pairs: 'pairs of values',
  spread: 'spread',
}
/** The same beside a row. */
export const wayShort: Readonly<Record<AskWay, string>> = { all: 'every', any: 'any', pairs: 'pairs', spread: 'spread' }

/** Ways in the order they are offered. */
export const waysOffered: readonly AskWay[] = ['all', 'pairs', 'spread', 'any']
