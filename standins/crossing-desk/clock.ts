// Crossing Desk lives by one clock on the wall: local time, told as milliseconds as if it were UTC. It can be set and moved, so that
// holds, cut-offs and birthdays are tried in seconds.

export const minute = 60_000
export const hour = 60 * minute
export const day = 24 * hour

/** Where every known state begins: a Tuesday morning. */
export const beginning = Date.UTC(2026, 4, 12, 9)

/** `2026-05-12` of an instant. */
export const dayOf = (at: number): string => new Date(at).toISOString().slice(0, 10)
/** `10:40` of an instant. */
export const timeOf = (at: number): string => new Date(at).toISOString().slice(11, 16)
/** The instant of a day and a time. */
export const instant = (date: string, time: string): number => Date.parse(`${date}T${time}:00Z`)
/** 1 is Monday, 7 is Sunday. */
export const weekdayOf = (at: number): number => new Date(at).getUTCDay() || 7
export const addDays = (date: string, days: number): string => dayOf(Date.parse(`${date}T00:00:00Z`) + days * day)

export const isDay = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(`${text}T00:00:00Z`)) && addDays(text, 0) === text

/** Time that is left, as `19:59`. */
export function leftText(ms: number): string {
  const seconds = Math.max(0, Math.ceil(ms / 1000))
  return `${String(Math.floor(seconds / 60)).padStart(2, '0')}:${String(seconds % 60).padStart(2, '0')}`
}
