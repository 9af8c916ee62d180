import type { AskWay } from './asks.ts'

type Words = Readonly<Record<AskWay, string>>

/** A way of asking for environments in words. */
export const wayWords: Words = {
  all: 'every environment',
  any: 'any one',
  pairs: 'pairs of values',
  spread: 'spread',
}
/** The same beside a row. */
export const wayShort: Words = { all: 'every', any: 'any', pairs: 'pairs', spread: 'spread' }
/** The same where a plan is read away from the screen, or signed. */
export const waySaid: Words = {
  all: 'every environment',
  any: 'any one environment',
  pairs: 'the least set with every pair of values',
  spread: 'spread over the environments',
}

/** Ways in the order they are offered. */
export const waysOffered: readonly AskWay[] = ['all', 'pairs', 'spread', 'any']
