import type { Draft, DraftStep } from './draft.ts'
import { stepFields } from './step-edits.ts'

// What was done to the words of a case, so that it can be taken back in order. An entry takes back what it did itself and leaves
// alone what was written elsewhere since.

/** The words of a case: what stands before its steps, and they. */
export type Said = Pick<Draft, 'preconditions' | 'steps'>

export interface Entry {
  readonly before: Said
  readonly after: Said
  /** The cell that was typed in, as `row:field`; `null` for a paste, a step added, moved or taken away. */
  readonly cell: string | null
  readonly at: number
}
export interface History {
  readonly done: readonly Entry[]
  readonly undone: readonly Entry[]
}
export const noHistory: History = { done: [], undone: [] }

/** Milliseconds within which letters typed in one cell are one entry, and so many entries are kept. */
const oneGo = 1000
const mostEntries = 200

/** Another entry; letters typed one after another in one cell are one. What was taken back before cannot be done again then. */
export function recorded({ done }: History, entry: Entry): History {
  const last = done.at(-1)
  const goesOn = last && entry.cell !== null && last.cell === entry.cell && entry.at - last.at < oneGo
  const next = goesOn ? { ...entry, before: last.before } : entry
  return { done: [...(goesOn ? done.slice(0, -1) : done), next].slice(-mostEntries), undone: [] }
}

/** The newest entry that was no typing in another cell than this one. */
const newest = (entries: readonly Entry[], cell: string): number =>
  entries.findLastIndex((entry) => entry.cell === null || entry.cell === cell)

interface Turned {
  readonly said: Said
  readonly history: History
}

function turned({ done, undone: back }: History, doing: 'undo' | 'redo', cell: string, now: Said): Turned | null {
  const from = doing === 'undo' ? done : back
  const at = newest(from, cell)
  const entry = from[at]
  if (!entry) return null
  const rest = from.toSpliced(at, 1)
  return doing === 'undo'
    ? { said: without(entry.after, entry.before, now), history: { done: rest, undone: [...back, entry] } }
    : { said: without(entry.before, entry.after, now), history: { done: [...done, entry], undone: rest } }
}

/** Takes the newest entry of this cell or of the whole back; `null` when there is none. */
export const undone = (history: History, cell: string, now: Said): Turned | null => turned(history, 'undo', cell, now)

/** Does again what was taken back last. */
export const redone = (history: History, cell: string, now: Said): Turned | null => turned(history, 'redo', cell, now)

type Steps = readonly DraftStep[]
const rowsIn = (steps: Steps): Map<string, DraftStep> => new Map(steps.map((step) => [step.row, step]))
const textOf = (step: DraftStep): string => JSON.stringify(stepFields.map((field) => step[field]))

/** What is said now without what led from the one to the other. */
function without(from: Said, to: Said, now: Said): Said {
  const [before, after, own] = [rowsIn(to.steps), rowsIn(from.steps), rowsIn(now.steps)]
  const kept = now.steps.flatMap((step) => {
    const [was, is] = [before.get(step.row), after.get(step.row)]
    // A step that came with the entry goes with it, unless somebody wrote in it since.
    if (is && !was) return textOf(is) === textOf(step) ? [] : [step]
    return [is && was ? stepBack(step, is, was) : step]
  })
  const order = moved(from.steps, to.steps) ? to.steps : kept
  const frame = [...order].flatMap(({ row }) => kept.find((step) => step.row === row) ?? [])
  const missing = kept.filter((step) => !frame.includes(step))
  const gone = to.steps.filter(({ row }) => !after.has(row) && !own.has(row))
  const steps = gone.reduce<Steps>(
    (all, step) => putAfter(all, step, to.steps),
    missing.reduce<Steps>((all, step) => putAfter(all, step, now.steps), frame),
  )
  const untouched = now.preconditions === from.preconditions
  return { preconditions: untouched ? to.preconditions : now.preconditions, steps }
}

/** The texts that the entry changed as they were, where nobody changed them since. */
function stepBack(step: DraftStep, is: DraftStep, was: DraftStep): DraftStep {
  const texts = stepFields.flatMap((field): [string, string][] =>
    is[field] !== was[field] && step[field] === is[field] ? [[field, was[field]]] : [],
  )
  return { ...step, ...Object.fromEntries(texts) }
}

/** Do the steps that both have stand in another order? */
function moved(from: Steps, to: Steps): boolean {
  const [one, other] = [rowsIn(from), rowsIn(to)]
  const rows = from.filter(({ row }) => other.has(row)).map(({ row }) => row)
  return to.filter(({ row }) => one.has(row)).some(({ row }, at) => row !== rows[at])
}

/** Behind the step it follows in another list, as far as that is here. */
function putAfter(steps: Steps, step: DraftStep, list: Steps): Steps {
  const place = list.findIndex(({ row }) => row === step.row)
  const before = list.slice(0, place).findLast(({ row }) => steps.some((each) => each.row === row))
  return steps.toSpliced(before ? steps.findIndex(({ row }) => row === before.row) + 1 : 0, 0, step)
}
