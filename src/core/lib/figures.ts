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

/** `1 case`, `3 cases`. */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en-GB').replaceAll(',', ' ')} ${n === 1 ? one : many}`

/** Minutes as `45 min`, `2 h 10`. */
export function minutesText(minutes: number): string {
  const whole = Math.round(minutes)
  if (whole < 60) return `${whole} min`
  const rest = whole % 60
  return rest === 0 ? `${Math.floor(whole / 60)} h` : `${Math.floor(whole / 60)} h ${String(rest).padStart(2, '0')}`
}
