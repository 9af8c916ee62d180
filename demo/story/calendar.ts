import { sumOf } from '#core/lib/figures.ts'
import { dayAfter, dayIn, startOfDay, weekdayOf } from '#core/lib/days.ts'
import { day, minute } from '../../standins/crossing-desk/clock.ts'

/** Where Crossing Desk is tested. */
export const zone = 'Europe/Oslo'

/** When people begin and stop, in minutes after midnight. */
const hours = { from: 8 * 60 + 30, to: 16 * 60 + 20 }

/** The week in which the demo works: Monday to Friday, and the day on which it is begun: before a release some work on it, too. */
const workingWeekdays = (now: number): number[] => [...new Set([1, 2, 3, 4, 5, weekdayOf(dayIn(zone, now))])].sort()

/** Plain dates counted from today, where Crossing Desk is tested, whatever the clock of the machine shows. */
export const datesFrom = (now: number) => {
  const today = dayIn(zone, now)
  return (days: number): string => dayAfter(today, days)
}

/** The week that is planned for: tomorrow is worked as well, so that the days of the demo hold as much whenever it is begun. */
export const plannedWeekdays = (now: number): number[] =>
  [...new Set([...workingWeekdays(now), weekdayOf(datesFrom(now)(1))])].sort()

export interface Stretch {
  readonly from: number
  readonly to: number
}

/**
 * Working time between two days counted from today, the last of them included, and nothing of it later than now. Where that leaves
 * less than half a day (the demo is begun on a Monday at night), the days between count whatever day of the week they are.
 */
export function workingTime(now: number, from: number, to: number): Stretch[] {
  const weekdays = workingWeekdays(now)
  const all = Array.from({ length: Math.max(0, Math.min(to, 0) - from + 1) }, (_, at): Stretch => {
    const midnight = startOfDay(zone, now + (from + at) * day)
    return { from: midnight + hours.from * minute, to: Math.min(midnight + hours.to * minute, now - 10 * minute) }
  }).filter((each) => each.to > each.from)
  const worked = all.filter((each) => weekdays.includes(weekdayOf(dayIn(zone, each.from))))
  return lengthOf(worked) >= 240 * minute ? worked : all
}

export const lengthOf = (stretches: readonly Stretch[]): number => sumOf(stretches, ({ from, to }) => to - from)

/** The instant a share of all of it has gone. */
export function instantAt(stretches: readonly Stretch[], share: number): number {
  let left = share * lengthOf(stretches)
  for (const { from, to } of stretches) {
    if (left <= to - from) return Math.round(from + left)
    left -= to - from
  }
  return stretches.at(-1)?.to ?? 0
}
