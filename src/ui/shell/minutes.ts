import { minutesIn, noMinutes } from '#core/lib/figures.ts'
import { notify } from '#ui/kit/notices.tsx'

/** Stores minutes as they were typed; what is none is refused with a sentence, and nothing is stored. */
export function withMinutes(text: string, store: (minutes: number | null) => void): void {
  const minutes = minutesIn(text)
  if (minutes === undefined) notify(noMinutes(text), { tone: 'problem' })
  else store(minutes)
}
