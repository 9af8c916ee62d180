import { type StepText, withValues } from '#core/cases/steps.ts'
import { decodeText } from '#core/lib/plain-text.ts'
import type { Verdict } from '#core/lib/verdict.ts'

export interface FailingStep {
  readonly caseTitle: string
  readonly preconditions: string
  readonly steps: readonly (StepText & { readonly verdict: Verdict; readonly comment: string })[]
  /** Index of the failing step, from 0. */
  readonly at: number
  readonly values: Readonly<Record<string, string>>
}

/** The title and text a defect from a failing step starts with, as plain paragraphs; the person adds what happened. */
export function draftDefect(of: FailingStep): { readonly title: string; readonly steps: string } {
  const failing = of.steps[of.at]
  const expected = failing ? plain(withValues(failing.expected || failing.action, of.values)) : ''
  const title = expected === '' ? of.caseTitle : `${of.caseTitle}: not as expected, “${shorten(expected, 80)}”`
  const lines = of.steps.slice(0, of.at + 1).map((step, index) => stepLine(step, index, of.values))
  const values = Object.entries(of.values).map(([name, value]) => `${name} = ${value}`)
  const before = of.preconditions.trim() === '' ? [] : [`Before: ${plain(withValues(of.preconditions, of.values))}`]
  return {
    title: shorten(title, 200),
    steps: [...before, ...(values.length > 0 ? [`Data: ${values.join(', ')}`] : []), ...lines].join('\n'),
  }
}

function stepLine(step: FailingStep['steps'][number], index: number, values: Readonly<Record<string, string>>): string {
  const say = (text: string) => plain(withValues(text, values))
  const data = step.data.trim() === '' ? '' : ` [${say(step.data)}]`
  const expected = step.expected.trim() === '' ? '' : ` Should be: ${say(step.expected)}.`
  const comment = step.comment.trim() === '' ? '' : ` Noted: ${plain(step.comment)}`
  return `${index + 1}. ${say(step.action)}${data}${expected} (${step.verdict})${comment}`.replaceAll('..', '.')
}

/** Rich text as plain words, for titles and lists. */
export const plain = (html: string): string =>
  decodeText(html.replace(/<br\s*\/?>|<\/(p|li|h\d|tr|div)>/gi, ' ').replace(/<[^>]*>/g, ''))
    .replace(/\s+/g, ' ')
    .trim()

const shorten = (text: string, most: number): string =>
  text.length <= most ? text : `${text.slice(0, most - 1).trimEnd()}…`
