import { counted } from '#core/lib/figures.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { outlineLines } from '#core/lib/outline-lines.ts'
import { type StepText, stepLines, withTexts } from './steps.ts'

/** A case as it is typed: its title, and what stands indented below it. */
export interface CaseLines {
  readonly title: string
  readonly steps: readonly StepText[]
}

/** A line a case; lines indented below it are its steps, `action => expected`. */
export function caseLines(text: string): CaseLines[] {
  const cases: { title: string; steps: StepText[] }[] = []
  for (const { title, depth } of outlineLines(text)) {
    if (depth === 0) cases.push({ title, steps: [] })
    else cases.at(-1)?.steps.push(...stepLines(title).map((step) => withTexts(step, escapeText)))
  }
  return cases
}

/** What these lines make: `3 cases, 5 steps`. */
export function caseLinesSay(text: string): string {
  const cases = caseLines(text)
  const steps = cases.reduce((sum, { steps: own }) => sum + own.length, 0)
  return `${counted(cases.length, 'case')}${steps === 0 ? '' : `, ${counted(steps, 'step')}`}`
}
