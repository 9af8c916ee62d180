import type { LineAnswer } from '#core/schedule/contract.ts'
import { mostReserve } from '#core/projects/reserve.ts'

/** Sums over the items in their order: `sums[n]` is that of the first n. */
const sumsOf = (of: readonly number[]): number[] => {
  const sums = [0]
  for (const each of of) sums.push(sums[sums.length - 1]! + each)
  return sums
}

/** What stands above the line wherever it is drawn: nothing is worked out again while it is dragged. */
export interface LineSums {
  readonly minutes: readonly number[]
  readonly worth: readonly number[]
  readonly risk: readonly number[]
}
export const lineSums = ({ minutes, adds, risk }: LineAnswer): LineSums => ({
  minutes: sumsOf(minutes),
  worth: sumsOf(adds),
  risk: sumsOf(risk),
})

/** The part of a whole in per cent, rounded down; all of it only where it is all. */
export const partIn = (sums: readonly number[], at: number): number => {
  const whole = sums.at(-1) ?? 0
  return whole === 0 ? 0 : Math.floor((100 * sums[at]!) / whole + 1e-9)
}

/** How many items are above the line when it is let go at a height, in px from the top of the first row. */
export const rowsAt = (height: number, row: number, count: number): number =>
  Math.max(0, Math.min(count, Math.round(height / row)))

/** Hours as they are typed: `44`, `44.5`, `44 h`, `7 h 30`, `450 min`; `null` for what is none. */
export function minutesTyped(text: string): number | null {
  const found = /^(\d+(?:[.,]\d+)?)\s*(h|min)?(?:\s*(\d{1,2})(?:\s*min)?)?$/.exec(text.trim())
  if (!found) return null
  const first = Number((found[1] ?? '').replace(',', '.'))
  if (found[2] === 'min') return found[3] === undefined ? Math.round(first) : null
  return Math.round(first * 60) + Number(found[3] ?? 0)
}

/** Items by the run they are in, in the order of the runs. */
export const byRun = (
  { ids, runOf, runs }: LineAnswer,
  chosen: readonly number[],
): { ref: string; ids: number[] }[] => {
  const at = new Map(ids.map((id, index) => [id, runOf[index] ?? 0]))
  return runs
    .map(({ key }, index) => ({ ref: key, ids: chosen.filter((id) => at.get(id) === index) }))
    .filter((own) => own.ids.length > 0)
}

/** What is to be said of an item before why it is worth what it is: what cannot be, and what was to be done by now. */
export function notesOf({ problems, slipped }: LineAnswer, words: (slip: LineAnswer['slipped'][number]) => string) {
  const notes = new Map(slipped.map((slip) => [slip.item, words(slip)]))
  for (const { item, words: problem } of problems)
    if (item !== null) notes.set(item, [problem, notes.get(item)].filter(Boolean).join('; '))
  return notes
}

/** A part of the time as it is typed, in per cent; `null` for what is none, and for more than can be kept back. */
export function percentTyped(text: string): number | null {
  const found = /^(\d+(?:[.,]\d+)?)\s*%?$/.exec(text.trim())
  const percent = found ? Number((found[1] ?? '').replace(',', '.')) : NaN
  return percent >= 0 && percent <= mostReserve ? percent : null
}
