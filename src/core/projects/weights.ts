import { z } from 'zod'
import { readJson } from '#core/lib/read-json.ts'

/** How much each thing that is known makes an attempt worth: parts of one, but for what cases add by their importance. */
export const usualWeights = {
  /** The case or its requirement changed since it passed. */
  changed: 0.3,
  /** An open defect on the same requirement. */
  openDefect: 0.15,
  /** A repair waits to be tried. */
  retest: 0.6,
  /** How little what stands is to be trusted. */
  doubt: 0.3,
  Critical: 8,
  High: 4,
  Medium: 2,
  Low: 1,
} as const
export const weightWords: Readonly<Record<keyof WorthWeights, string>> = {
  changed: 'changed since it passed',
  openDefect: 'an open defect on the same requirement',
  retest: 'a repair waits to be tried',
  doubt: 'nothing stands that could be trusted',
  Critical: 'a case of importance Critical',
  High: 'a case of importance High',
  Medium: 'a case of importance Medium',
  Low: 'a case of importance Low',
}

const part = z.number().min(0, 'is 0 or more').max(1, 'is at most 1')
const points = z.number().min(0, 'is 0 or more').max(1000, 'is at most 1000')
export const worthWeights = z.object({
  changed: part,
  openDefect: part,
  retest: part,
  doubt: part,
  Critical: points,
  High: points,
  Medium: points,
  Low: points,
})
export type WorthWeights = z.infer<typeof worthWeights>

/** What is stored as weights; the usual ones where nothing is, or what cannot be read. */
export function weightsIn(stored: string): WorthWeights {
  if (stored === '') return usualWeights
  const told = worthWeights.partial().safeParse(readJson(stored))
  return { ...usualWeights, ...(told.success ? told.data : {}) }
}
