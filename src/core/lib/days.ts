// Plain dates, such as `2026-11-23`, and the instants they begin at. A time zone is named as in `Europe/Oslo`.

/** The plain date an instant has in a time zone; where none is named in that of the machine. */
export const dayIn = (timeZone: string | undefined, at: number): string =>
  new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(at)

/** The instant at which the day of `now` began in a time zone. */
export function startOfDay(timeZone: string, now: number): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
    hourCycle: 'h23',
  }).formatToParts(now)
  const at = (type: string) => Number(parts.find((part) => part.type === type)?.value ?? 0)
  return now - ((at('hour') * 60 + at('minute')) * 60 + at('second')) * 1000 - (now % 1000)
}

/** The plain date so many days later. */
export function dayAfter(day: string, days: number): string {
  const date = new Date(`${day}T12:00:00Z`)
  date.setUTCDate(date.getUTCDate() + days)
  return date.toISOString().slice(0, 10)
}

/** The plain dates from one to another, both counted; no more than `most` of them. */
export function daysBetween(from: string, to: string, most: number): string[] {
  const days: string[] = []
  for (let day = from; day <= to && days.length < most; day = dayAfter(day, 1)) days.push(day)
  return days
}

/** Days since 1970 of a plain date, to count from one to another. */
export const dayNumber = (day: string): number => Date.parse(day) / 86_400_000

/** The day of the week of a plain date: Monday is 1, Sunday 7. */
export const weekdayOf = (day: string): number => new Date(`${day}T12:00:00Z`).getUTCDay() || 7

/** What clocks in a time zone show at an instant, to the minute: `2026-11-23T14:05`. */
export function wallClock(timeZone: string | undefined, at: number): string {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(at)
  const of = (type: string) => parts.find((part) => part.type === type)?.value ?? ''
  return `${of('year')}-${of('month')}-${of('day')}T${of('hour')}:${of('minute')}`
}

/**
 * The instant at which clocks in a time zone show this; `null` for what is no such text. Of an hour that comes twice it is one of the
 * two, of one that is left out an instant beside it.
 */
export function instantOnClock(timeZone: string | undefined, text: string): number | null {
  const asUtc = Date.parse(`${text}Z`)
  if (Number.isNaN(asUtc)) return null
  const ahead = (at: number) => Date.parse(`${wallClock(timeZone, at)}Z`) - Math.floor(at / 60_000) * 60_000
  const near = asUtc - ahead(asUtc)
  return asUtc - ahead(near)
}
