/** A source of numbers in [0, 1). */
export type Random = () => number

/**
 * A seeded source: the same seed gives the same numbers on any machine.
 * mulberry32, after Tommy Ettinger's public-domain generator.
 */
export function seeded(seed: number): Random {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}

export const pick = <T>(random: Random, from: readonly T[]): T => {
  const chosen = from[Math.floor(random() * from.length)]
  if (chosen === undefined) throw new RangeError('pick needs something to pick from')
  return chosen
}

export const between = (random: Random, low: number, high: number): number =>
  low + Math.floor(random() * (high - low + 1))
