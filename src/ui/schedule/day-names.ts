import { weekdayOf } from '#core/lib/days.ts'
import { dayText } from '#ui/kit/moment.ts'

const names = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

/** `Mon 30 Nov`; of a day nobody works only its number. */
export const dayNameOf = (day: string, whole: boolean): string =>
  whole ? `${names[weekdayOf(day) - 1] ?? ''} ${dayText(day)}` : String(Number(day.slice(8)))
