import type { PlacedItem } from './contract.ts'

/** Of each day: what somebody can give, and what other runs and projects have of it. */
export interface Given {
  readonly minutes: readonly number[]
  readonly busy: readonly number[]
}

/** What is left of somebody's day for a run, whatever is on it already; `day` is a place among the days. */
export const freeOn = ({ minutes, busy }: Given, day: number): number =>
  Math.max(0, (minutes[day] ?? 0) - (busy[day] ?? 0))

/** Minutes that are placed on each person's days, summed up once. */
export function loadOf(
  places: readonly Pick<PlacedItem, 'person' | 'day' | 'minutes'>[],
): (person: string, day: string) => number {
  const sums = new Map<string, number>()
  const key = (person: string, day: string) => `${day} ${person}`
  for (const { person, day, minutes } of places) sums.set(key(person, day), (sums.get(key(person, day)) ?? 0) + minutes)
  return (person, day) => sums.get(key(person, day)) ?? 0
}
