import { plainText } from '#core/lib/plain-text.ts'
import { parametersIn, type StepText, type VersionContent } from './steps.ts'

export interface Signal {
  readonly kind: 'no expected result' | 'several actions' | 'too many steps' | 'unused parameter' | 'missing value'
  /** Index of the step it is about, from 0. */
  readonly step: number | null
  readonly sentence: string
  /** What applying the fix does; `null` where only a person can. */
  readonly fix: string | null
}

/** More steps than this are hard to execute in one go and hard to read in a report. */
export const mostSteps = 20

/** What a case would be better for, while it is being written; none of it hinders. */
export function signalsOf(content: VersionContent): Signal[] {
  const { rows } = content
  // What a routine does is said where the routine is written.
  const steps = content.steps.map((step): StepText =>
    step.use ? { id: step.id, action: '', expected: step.use.ref, data: '' } : step,
  )
  const used = parametersIn(content)
  const bare = steps.flatMap(({ action, expected }, step): Signal[] =>
    action.trim() !== '' &&
    expected.trim() === '' &&
    (step === steps.length - 1 || steps.every((each) => each.expected.trim() === ''))
      ? [
          {
            kind: 'no expected result',
            step,
            sentence:
              steps.every((each) => each.expected.trim() === '') && steps.length > 1
                ? 'No step says what should be seen'
                : `Step ${step + 1} ends the case and does not say what should be seen`,
            fix: null,
          },
        ]
      : [],
  )
  const several = steps.flatMap(({ action }, step): Signal[] =>
    actionsIn(action).length > 1
      ? [
          {
            kind: 'several actions',
            step,
            sentence: `Step ${step + 1} asks for ${actionsIn(action).length} actions; if it fails, nobody knows which`,
            fix: 'make a step of each',
          },
        ]
      : [],
  )
  const long: Signal[] =
    steps.length > mostSteps
      ? [
          {
            kind: 'too many steps',
            step: null,
            sentence: `${steps.length} steps; a case of more than ${mostSteps} is seldom executed to its end`,
            fix: null,
          },
        ]
      : []
  const unused = content.parameters
    .filter((name) => !used.includes(name))
    .map((name): Signal => ({
      kind: 'unused parameter',
      step: null,
      sentence: `{${name}} has values but no step uses it`,
      fix: 'drop its column',
    }))
  const missing = (content.table ? [] : used)
    .filter((name) => rows.length === 0 || rows.some((row) => (row[name] ?? '').trim() === ''))
    .map((name): Signal => ({
      kind: 'missing value',
      step: null,
      sentence:
        rows.length === 0
          ? `{${name}} is used but there is no data row`
          : `{${name}} has no value in ${rows.filter((row) => (row[name] ?? '').trim() === '').length} of ${rows.length} rows`,
      fix: rows.length === 0 ? 'add a data row' : null,
    }))
  return [...bare.slice(0, 1), ...several, ...long, ...unused, ...missing]
}

/** Actions of a step: sentences, or what “then” or a semicolon puts one after the other. A text with marks is left whole. */
export function actionsIn(action: string): string[] {
  if (/<[a-z]/i.test(action)) return [action]
  const plain = plainText(action)
  return plain
    .split(/(?<=\p{L}{2,})[.!]\s+(?=\p{Lu})|\s*;\s+|,?\s+(?:and\s+)?then\s+/u)
    .map((part) => part.trim().replace(/[.;]$/, ''))
    .filter((part) => part !== '')
}

/** The content with the fix of a signal applied; steps that become several keep the identity and the result on the first and last of them. */
export function fixSignal(content: VersionContent, signal: Signal): VersionContent {
  if (signal.fix === null) return content
  if (signal.kind === 'several actions')
    return {
      ...content,
      steps: content.steps.flatMap((step, index): StepText[] => (index === signal.step ? splitStep(step) : [step])),
    }
  if (signal.kind === 'missing value')
    return { ...content, rows: [Object.fromEntries(parametersIn(content).map((name) => [name, '']))] }
  const name = /^\{(.+?)\}/.exec(signal.sentence)?.[1] ?? ''
  return {
    ...content,
    parameters: content.parameters.filter((each) => each !== name),
    rows: content.rows.map((row) => Object.fromEntries(Object.entries(row).filter(([each]) => each !== name))),
  }
}

function splitStep(step: StepText): StepText[] {
  const actions = actionsIn(step.action)
  return actions.map((action, index) => {
    const text = `${action[0]?.toUpperCase() ?? ''}${action.slice(1)}`
    return {
      id: index === 0 ? step.id : null,
      action: text,
      expected: index === actions.length - 1 ? step.expected : '',
      data: index === 0 ? step.data : '',
    }
  })
}
