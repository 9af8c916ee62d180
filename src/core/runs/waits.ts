import { z } from 'zod'
import { isFinal, type Verdict } from '#core/lib/verdict.ts'

// What an item of a run waits for: cases that run before it, other items, defects.

export const waitKinds = ['case', 'item', 'defect'] as const
export const wait = z.object({
  /** `case`: one its own case says must have run before. */
  kind: z.enum(waitKinds),
  key: z.string(),
  /** Whether that has come. */
  over: z.boolean(),
})
export type Wait = z.infer<typeof wait>

export const waitStates = ['waiting', 'freed'] as const
export type WaitState = (typeof waitStates)[number]

/**
 * Whether an item waits, or did and can go on; `null`: neither. What was executed waits no more, unless it is blocked: that is
 * freed when the last of its defects is repaired. A case that has run before its turn is no event, so it frees nothing.
 */
export function waitState(waits: readonly Wait[], verdict: Verdict): WaitState | null {
  if (isFinal(verdict) && verdict !== 'Blocked') return null
  if (waits.some(({ over }) => !over)) return 'waiting'
  return waits.some(({ kind }) => kind !== 'case') ? 'freed' : null
}

/** In the words of a row: `waits for DF-12, CS-3`, `freed: DF-12`. */
export function waitWords(waits: readonly Wait[], verdict: Verdict): string {
  const state = waitState(waits, verdict)
  if (state === null) return ''
  const named = waits.filter(({ over, kind }) => (state === 'waiting' ? !over : kind !== 'case'))
  return `${state === 'waiting' ? 'waits for ' : 'freed: '}${[...new Set(named.map(({ key }) => key))].join(', ')}`
}

/**
 * Whether waiting for `other` would make an item wait for itself in the end.
 * @param waitsFor what each item waits for, among items
 */
export function goesRound(item: number, other: number, waitsFor: ReadonlyMap<number, readonly number[]>): boolean {
  const seen = new Set<number>()
  const open = [other]
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    if (next === item) return true
    if (seen.has(next)) continue
    seen.add(next)
    open.push(...(waitsFor.get(next) ?? []))
  }
  return false
}
