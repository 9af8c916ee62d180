// Plain dates, such as `2026-11-23`, and the instants they begin at. A time zone is named as in `Europe/Oslo`.

/** The plain date an instant has in a time zone. */
export const dayIn = (timeZone: string, at: number): string =>
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

/** The day of the week of a plain date: Monday is 1, Sunday 7. */
export const weekdayOf = (day: string): number => new Date(`${day}T12:00:00Z`).getUTCDay() || 7
