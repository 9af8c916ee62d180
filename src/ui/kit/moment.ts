import { useEffect, useState } from 'react'
import { dayIn, dayNumber, instantOnClock, wallClock } from '#core/lib/days.ts'

/** How dates are written for who is here, and the clock they live by; as long as nobody is known, as the browser’s clock has it. */
let reader: { readonly language: string; readonly timeZone: string | undefined } = {
  language: 'en-GB',
  timeZone: undefined,
}
/** Everything below writes for this person from now on, on the server as in the browser. */
export const writeDatesFor = (of: { readonly language: string; readonly timeZone: string }): void => {
  reader = of
}

/** Making a format takes a hundred times as long as writing by it. */
const formats = new Map<string, Intl.DateTimeFormat>()
const mostFormats = 200

function written(at: number, how: Intl.DateTimeFormatOptions): string {
  const of = { timeZone: reader.timeZone, ...how }
  const key = `${reader.language} ${JSON.stringify(of)}`
  const known = formats.get(key)
  if (known) return known.format(at)
  if (formats.size >= mostFormats) formats.clear()
  const made = new Intl.DateTimeFormat(reader.language, of)
  formats.set(key, made)
  return made.format(at)
}

/** `27 Nov, 14:05`. */
export const momentText = (at: number): string =>
  written(at, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })

/** `27 Nov 2026, 14:05`. */
export const fullMomentText = (at: number): string => written(at, { dateStyle: 'medium', timeStyle: 'short' })

/** `14:05`. */
export const clockText = (at: number): string => written(at, { hour: '2-digit', minute: '2-digit' })

/** `14:05:09`. */
export const exactClockText = (at: number): string => written(at, { timeStyle: 'medium' })

/** `21 Nov`: a plain date, which belongs to no time zone. */
export const dayText = (day: string): string =>
  written(Date.parse(`${day}T12:00:00Z`), { day: 'numeric', month: 'short', timeZone: 'UTC' })

/** When the server drew the page; nothing once the browser has taken it over. */
let drawnAt: number | null = null

/** The instant what is drawn is told from. */
export const now = (): number => drawnAt ?? Date.now()

/**
 * Tells times from the instant the server drew the page at, until the browser has taken the page over. A text that says “1 min ago”
 * where the server said “just now” is no page of the server's: the browser would draw all of it anew, and close what was unfolded
 * and lose what was typed before its programs were there.
 */
export function useDrawnAt(at: number): void {
  useState(() => {
    drawnAt = at
  })
  useEffect(() => {
    drawnAt = null
  }, [])
}

/** The hour of the day where the reader lives, 0 to 23. */
export const hourNow = (): number =>
  Number(
    new Intl.DateTimeFormat('en-GB', { timeZone: reader.timeZone, hour: 'numeric', hourCycle: 'h23' }).format(now()),
  )

/** Today as it is in a project, wherever the reader lives. */
export const todayIn = ({ timeZone }: { readonly timeZone: string }): string => dayIn(timeZone, now())

/** Whole days from today, where the reader lives, to a plain date. */
export const daysTo = (day: string): number => dayNumber(day) - dayNumber(dayIn(reader.timeZone, now()))

/** An instant as a field for day and hour holds it, on the clock the reader lives by; and the instant such a field says. */
export const clockField = (at: number): string => wallClock(reader.timeZone, at)
export const instantInField = (text: string): number | null => instantOnClock(reader.timeZone, text)
