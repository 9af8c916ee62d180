import { stepLines, withTexts, withValues } from '#core/cases/steps.ts'
import type { Used } from '#core/cases/contract.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import type { DraftStep } from './draft.ts'

// What keys, drags and the clipboard make of the steps; the steps given stay as they are.

export const stepFields = ['action', 'expected', 'data'] as const
export type StepField = (typeof stepFields)[number]
/** A step that has no place on the page yet. */
export type Fresh = Omit<DraftStep, 'row'>
export const emptyStep: Fresh = { id: null, action: '', expected: '', data: '' }
type Steps = readonly DraftStep[]

export const isEmpty = (step: Fresh | undefined): boolean =>
  step !== undefined && stepFields.every((name) => step[name] === '')

export const moved = (steps: Steps, from: number, to: number): Steps => {
  const step = steps[from]
  if (!step || to < 0 || to >= steps.length || from === to) return steps
  return steps.toSpliced(from, 1).toSpliced(to, 0, step)
}

/** What a step inserts, as steps of the case's own with the values it was given. */
export function writtenOut({ use }: DraftStep, said: Used): Fresh[] {
  const given = Object.fromEntries(Object.entries(use?.values ?? {}).filter(([, value]) => value.trim() !== ''))
  return said.steps.map(({ action, expected, data, evidence }) =>
    withTexts({ id: null, action, expected, data, ...(evidence && { evidence }) }, (text) => withValues(text, given)),
  )
}

/** Typed or pasted lines as steps. */
export const asSteps = (text: string): Fresh[] => stepLines(text).map((step) => withTexts(step, escapeText))

/** Lines that were pasted into an action as steps behind it; the action says what it said without them. */
export function listed(
  steps: Steps,
  { row, text, fresh }: { row: string; text: string; fresh: (step: Fresh) => DraftStep },
): Steps {
  const at = steps.findIndex((step) => step.row === row)
  const own = steps[at]
  if (!own) return steps
  const pasted = escapeText(text.replace(/\r\n?/g, '\n'))
  const rest = { ...own, action: own.action.split(pasted).join('') }
  const lines = asSteps(text).map(fresh)
  return isEmpty(rest) ? steps.toSpliced(at, 1, ...lines) : steps.toSpliced(at, 1, rest, ...lines)
}

/** Columns of a spreadsheet into the cells from this one on; what is inserted there stays, and new steps follow the last. */
export function filled(
  steps: Steps,
  cells: readonly (readonly string[])[],
  { at, field, fresh }: { at: number; field: StepField; fresh: (step: Fresh) => DraftStep },
): Steps {
  const first = stepFields.indexOf(field)
  const count = Math.max(steps.length, at + cells.length)
  return Array.from({ length: count }, (_, index) => {
    const step = steps[index] ?? fresh(emptyStep)
    const given = index < at || step.use ? [] : (cells[index - at] ?? [])
    const texts = given.flatMap((value, offset): [string, string][] => {
      const name = stepFields[first + offset]
      return name ? [[name, escapeText(value.trim())]] : []
    })
    return { ...step, ...Object.fromEntries(texts) }
  })
}

/** Steps chosen by their numbers, by their places on the page: one more or less, or all from the last one to it. */
export function chosenAfter(
  chosen: readonly string[],
  steps: Steps,
  { at, last, range }: { at: number; last: number; range: boolean },
): readonly string[] {
  const own = steps[at]?.row
  if (own === undefined) return chosen
  if (range && chosen.length > 0) {
    const between = steps.slice(Math.min(at, last), Math.max(at, last) + 1).map(({ row }) => row)
    return [...new Set([...chosen, ...between])]
  }
  return chosen.includes(own) ? chosen.filter((row) => row !== own) : [...chosen, own]
}
