import { dayAfter } from '#core/lib/days.ts'
import { freeOn, type Given } from './load.ts'

/** When work ends by the hours there are, and how likely that is by the last day. */
export interface Finish {
  /** Places of the days; past the last of them, how many more working days it would take. */
  readonly half: number
  readonly sure: number
  /** The chance, 0…1, that all is done by the last day; `null` where there is nothing to do. */
  readonly chance: number | null
}

/** Minutes of items differ by themselves, and all together: what delays one is often there for the others too. */
const common = 0.15
const own = 0.4
/** The 85th part of a hundred of a bell curve lies so many deviations above its middle. */
const sureDeviations = 1.0364

/**
 * A first forecast: the minutes that remain as a bell curve, against what the team gives on each day. After the last day it goes on
 * as on an average of those on which anybody works.
 * @param minutes of each item that remains
 * @param hours minutes of the team on each day
 */
export function finishOf(minutes: readonly number[], hours: readonly number[]): Finish {
  const mean = minutes.reduce((sum, each) => sum + each, 0)
  if (mean === 0) return { half: 0, sure: 0, chance: null }
  const spread = Math.sqrt((common * mean) ** 2 + minutes.reduce((sum, each) => sum + (own * each) ** 2, 0))
  const given = hours.reduce((sum, each) => sum + each, 0)
  return {
    half: dayOf(mean, hours),
    sure: dayOf(mean + sureDeviations * spread, hours),
    chance: normal((given - mean) / spread),
  }
}

/** The same in plain dates, by what the hands give on some days; `null` where it never ends. */
export function endOf(
  minutes: readonly number[],
  hands: readonly Given[],
  days: readonly string[],
): { readonly half: string | null; readonly sure: string | null; readonly chance: number | null } {
  const hours = days.map((_, at) => hands.reduce((sum, hand) => sum + freeOn(hand, at), 0))
  const { half, sure, chance } = finishOf(minutes, hours)
  const last = days.at(-1)
  const named = (at: number) =>
    days[at] ?? (last !== undefined && Number.isFinite(at) ? dayAfter(last, at - days.length + 1) : null)
  return { half: named(half), sure: named(sure), chance }
}

/** On which day so many minutes are done; `Infinity` where nobody has any hours. */
function dayOf(minutes: number, hours: readonly number[]): number {
  let left = minutes
  for (const [day, given] of hours.entries()) {
    left -= given
    if (left <= 1e-9) return day
  }
  const worked = hours.filter((given) => given > 0)
  const usual = worked.reduce((sum, each) => sum + each, 0) / Math.max(1, worked.length)
  return usual === 0 ? Infinity : hours.length - 1 + Math.ceil(left / usual - 1e-9)
}

/** How much of a bell curve lies below (M. Abramowitz, I. A. Stegun 1964, 26.2.17; right to 7.5e-8). */
function normal(at: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(at))
  const tail =
    (Math.exp(-(at ** 2) / 2) / Math.sqrt(2 * Math.PI)) *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
  return at >= 0 ? 1 - tail : tail
}
