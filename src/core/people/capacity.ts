import { weekdayOf } from '#core/lib/days.ts'

/** Days on which somebody is away: plain dates, both among them; `minutes` of each of them, or the whole day when `null`. */
export interface Absence {
  readonly startOn: string
  readonly endOn: string
  readonly minutes: number | null
}

interface Hours {
  /** Of a working day. */
  readonly workingMinutes: number
  /** The part of their time that is really free for testing, in per cent. */
  readonly freePercent: number
}

export interface Capacity extends Hours {
  /** The part of their time that is for the project, in per cent. */
  readonly sharePercent: number
}

/** What holds of a new person until somebody says otherwise. */
export const newcomer = { workingMinutes: 480, freePercent: 60, sharePercent: 100 } as const satisfies Capacity

/** Minutes a person gives a project on a day on which they are not away. */
export const minutesPerDay = ({ workingMinutes, sharePercent, freePercent }: Capacity): number =>
  Math.round((workingMinutes * sharePercent * freePercent) / 10_000)

/**
 * Minutes a person can give a project on a day: (working minutes − absence) × share for the project × share really free.
 * `workingDays` are numbers with commas, Monday is 1.
 */
export function minutesOn(
  day: string,
  of: Capacity & { readonly workingDays: string; readonly absences: readonly Absence[] },
): number {
  if (!of.workingDays.split(',').includes(String(weekdayOf(day)))) return 0
  const away = of.absences
    .filter(({ startOn, endOn }) => startOn <= day && day <= endOn)
    .reduce((sum, { minutes }) => sum + (minutes ?? of.workingMinutes), 0)
  return minutesPerDay({ ...of, workingMinutes: Math.max(0, of.workingMinutes - away) })
}
