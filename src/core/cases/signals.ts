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
  // What a routine does is said where the routine is written.
  const steps = content.steps.map((step): StepText =>
    step.use ? { id: step.id, action: '', expected: step.use.ref, data: '' } : step,
  )
  const used = parametersIn(content)
  return [
    ...withoutExpected(steps),
    ...withSeveralActions(steps),
    ...tooLong(steps),
    ...content.parameters.filter((name) => !used.includes(name)).map(unusedParameter),
    ...(content.table ? [] : withoutValue(used, content.rows)),
  ]
}

/** The last step says what should be seen; where no step does, the first that acts is named. */
function withoutExpected(steps: readonly StepText[]): Signal[] {
  const isBare = ({ expected }: StepText) => expected.trim() === ''
  const none = steps.every(isBare)
  const step = steps.findIndex(
    (each, at) => each.action.trim() !== '' && isBare(each) && (none || at === steps.length - 1),
  )
  if (step < 0) return []
  const sentence =
    none && steps.length > 1
      ? 'No step says what should be seen'
      : `Step ${step + 1} ends the case and does not say what should be seen`
  return [{ kind: 'no expected result', step, sentence, fix: null }]
}

const withSeveralActions = (steps: readonly StepText[]): Signal[] =>
  steps.flatMap(({ action }, step): Signal[] => {
    const count = actionsIn(action).length
    if (count < 2) return []
    const sentence = `Step ${step + 1} asks for ${count} actions; if it fails, nobody knows which`
    return [{ kind: 'several actions', step, sentence, fix: 'make a step of each' }]
  })

const tooLong = ({ length }: readonly StepText[]): Signal[] =>
  length <= mostSteps
    ? []
    : [
        {
          kind: 'too many steps',
          step: null,
          sentence: `${length} steps; a case of more than ${mostSteps} is seldom executed to its end`,
          fix: null,
        },
      ]

const unusedParameter = (name: string): Signal => ({
  kind: 'unused parameter',
  step: null,
  sentence: `{${name}} has values but no step uses it`,
  fix: 'drop its column',
})

const withoutValue = (used: readonly string[], rows: VersionContent['rows']): Signal[] =>
  used.flatMap((name): Signal[] => {
    const known = { kind: 'missing value', step: null } as const
    if (rows.length === 0)
      return [{ ...known, sentence: `{${name}} is used but there is no data row`, fix: 'add a data row' }]
    const empty = rows.filter((row) => (row[name] ?? '').trim() === '').length
    if (empty === 0) return []
    return [{ ...known, sentence: `{${name}} has no value in ${empty} of ${rows.length} rows`, fix: null }]
  })

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
