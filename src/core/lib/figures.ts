/**
 * A share as whole percent: rounded down, 100 only when it is all, 0 only when it is nothing (a small
 * something is `'<1'`), and `null` when there is nothing to count.
 */
export function percent(part: number, whole: number): number | '<1' | null {
  if (!(whole > 0)) return null
  if (part <= 0) return 0
  if (part >= whole) return 100
  // Sums of weights carry binary dust; a share that is 60 % but for 1e-12 reads 60.
  const floor = Math.floor((part / whole) * 100 + 1e-9)
  return floor === 0 ? '<1' : Math.min(floor, 99)
}

/** `60 %`, `<1 %`, or an en dash when there is nothing to count. */
export const percentText = (share: number | '<1' | null): string => (share === null ? '–' : `${share} %`)

/** The same for a share between 0 and 1, or `null`. */
export const shareText = (share: number | null): string => percentText(share === null ? null : percent(share, 1))

// Made once: making one for each number takes longer than all else a row of a list does.
const grouping = new Intl.NumberFormat('en-GB')
/** `12 345`. */
export const groupedText = (n: number): string => grouping.format(n).replaceAll(',', ' ')

/** `1 case`, `3 cases`. */
export const counted = (n: number, one: string, many = `${one}s`): string => `${groupedText(n)} ${n === 1 ? one : many}`

/** How many of each word, behind a sentence: `, 3 With a remark`; nothing where there is none. */
export const wordsAfter = (words: Readonly<Record<string, number>>): string =>
  Object.entries(words)
    .map(([word, n]) => `, ${n} ${word}`)
    .join('')

/** Bytes as `640 B`, `12 kB`, `3.4 MB`, `1.2 GB`. */
export function bytesText(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`
  if (bytes < 1_000_000) return `${Math.round(bytes / 1000)} kB`
  return bytes < 1_000_000_000 ? `${(bytes / 1_000_000).toFixed(1)} MB` : `${(bytes / 1_000_000_000).toFixed(1)} GB`
}

/** Minutes as `45 min`, `2 h 10`. */
export function minutesText(minutes: number): string {
  const whole = Math.round(minutes)
  if (whole < 60) return `${whole} min`
  const rest = whole % 60
  return rest === 0 ? `${Math.floor(whole / 60)} h` : `${Math.floor(whole / 60)} h ${String(rest).padStart(2, '0')}`
}

/** At most so many minutes are an estimate. */
const mostMinutes = 10_000
const minutesPattern =
  /^(?:(?<hours>\d{1,3}(?:[.,]\d{1,2})?)\s*(?:h|hours?|:)\s*)?(?:(?<minutes>\d{1,5})\s*(?:m|min|minutes?)?)?$/i

/**
 * Minutes as people type them: `90`, `45 min`, `1 h 30`, `1:30`, `1.5 h`; empty is open (`null`). `undefined` for what is no whole
 * number of minutes from 1 to 10,000: it is to be refused, never read as open.
 */
export function minutesIn(text: string): number | null | undefined {
  const typed = text.trim()
  if (typed === '') return null
  const { hours, minutes } = minutesPattern.exec(typed)?.groups ?? {}
  if (hours === undefined && minutes === undefined) return undefined
  if (hours !== undefined && minutes !== undefined && (!/^\d+$/.test(hours) || Number(minutes) > 59)) return undefined
  const sum = Math.round(Number((hours ?? '0').replace(',', '.')) * 60 + Number(minutes ?? '0'))
  return sum >= 1 && sum <= mostMinutes ? sum : undefined
}

/** Why this is no estimate. */
export const noMinutes = (text: string): string =>
  `“${text.trim().slice(0, 40)}” is no estimate; it stays as it was. Type whole minutes, or hours such as 1 h 30.`

export const sumOf = <T>(all: readonly T[], of: (each: T) => number): number =>
  all.reduce((sum, each) => sum + of(each), 0)
