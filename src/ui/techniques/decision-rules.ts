import { type DecisionsAnswer, whenOf } from '#core/techniques/decisions.ts'
import type { DraftModel } from '#core/techniques/draft-row.ts'
import type { DecisionRule, Notice } from '#core/techniques/models.ts'

// What typing and clicking in a decision table makes of its rules.

export type Decisions = Extract<DraftModel, { technique: 'decisions' }>
type Conditions = Decisions['body']['conditions']

/** What was typed into a cell as values: `child or senior`, a beginning that fits one value only, or nothing for any. */
export function valuesTyped(text: string, known: readonly string[]): string[] | null {
  const parts = text
    .split(/\s+or\s+|,/)
    .map((part) => part.trim())
    .filter((part) => part !== '' && part !== '–' && part.toLowerCase() !== 'any')
  const found = parts.map((part) => valueMeant(part, known))
  return found.includes(undefined) ? null : [...new Set(found.flatMap((value) => value ?? []))]
}

function valueMeant(part: string, known: readonly string[]): string | undefined {
  if (known.includes(part)) return part
  const fits = known.filter((value) => value.toLowerCase().startsWith(part.toLowerCase()))
  return fits.length === 1 ? fits[0] : undefined
}

export const shownWhen = (rule: DecisionRule, name: string): string => rule.when[name]?.join(' or ') ?? ''

/** The rule with other values of a condition; without any it holds for all of them. */
export const withWhen = (rule: DecisionRule, name: string, values: readonly string[]): DecisionRule => ({
  ...rule,
  when: Object.fromEntries(Object.entries({ ...rule.when, [name]: [...values] }).filter(([, own]) => own.length > 0)),
})

/** The outcomes the rules name, in the order they are first named. */
export const outcomesOf = (rules: readonly DecisionRule[]): string[] => [
  ...new Set(rules.flatMap(({ then }) => Object.keys(then))),
]

/** A rule for these values whose outcomes are still open. */
export const openRule = (rules: readonly DecisionRule[], when: DecisionRule['when'] = {}): DecisionRule => {
  const outcomes = outcomesOf(rules)
  return { when, then: Object.fromEntries((outcomes.length > 0 ? outcomes : ['outcome']).map((name) => [name, ''])) }
}

/** A rule for what no rule is for yet. */
export const ruleFor = (model: Decisions, block: DecisionsAnswer['missing'][number]): DecisionRule =>
  openRule(
    model.body.rules,
    Object.fromEntries(Object.entries(whenOf(model.body, block)).map(([name, values]) => [name, [...values]])),
  )

export const blockText = (model: Decisions, block: DecisionsAnswer['missing'][number]): string =>
  Object.entries(whenOf(model.body, block))
    .map(([name, values]) => `${name} ${values.join(' or ')}`)
    .join(', ') || 'everything'

/** A rule split into one for each value of its first condition that has several; `null` when none has. */
export function splitRule(
  conditions: Conditions,
  rule: DecisionRule,
): { readonly by: string; readonly rules: DecisionRule[] } | null {
  const valuesOf = (name: string) => rule.when[name] ?? conditions[name] ?? []
  const by = Object.keys(conditions).find((name) => valuesOf(name).length > 1)
  if (by === undefined) return null
  return { by, rules: valuesOf(by).map((value) => withWhen(rule, by, [value])) }
}

/** What contradicts each rule, by its place. */
export function clashesOf(answer: DecisionsAnswer | null): ReadonlyMap<number, string> {
  const told = (answer?.conflicts ?? []).flatMap(({ rules: [a, b], example }) => {
    const text = Object.entries(example)
      .map(([name, value]) => `${name} ${value}`)
      .join(', ')
    return [
      [a, `contradicts rule ${b + 1}, as for ${text}`],
      [b, `contradicts rule ${a + 1}, as for ${text}`],
    ] as const
  })
  return new Map(told)
}

const ruleAt = (path: string): number | null => {
  const at = /^rules\[(\d+)\]/.exec(path)?.[1]
  return at === undefined ? null : Number(at)
}

/** What is told of a model, with the rule it is about. */
export function noticeText({ at, message }: Notice): string {
  const rule = ruleAt(at)
  return rule === null ? message : `Rule ${rule + 1}: ${message}`
}

/** What is wrong with each rule, by its place: left aside, contradicted, or said by others. */
export function marksOf(answer: DecisionsAnswer | null): ReadonlyMap<number, string> {
  const aside = (answer?.notices ?? []).flatMap(({ at, message }) => {
    const rule = ruleAt(at)
    return rule === null ? [] : [[rule, message] as const]
  })
  const idle = (answer?.redundant ?? []).map((at) => [at, 'says nothing that other rules do not say'] as const)
  return new Map([...idle, ...clashesOf(answer), ...aside])
}

/** Conditions that rules name and the table has no more, such as one whose line is being written. */
export const lostConditions = ({ conditions, rules }: Decisions['body']): string[] => [
  ...new Set(rules.flatMap(({ when }) => Object.keys(when).filter((name) => !Object.hasOwn(conditions, name)))),
]

/** The rules with another outcome; the first one of an empty table begins a rule. */
export const withOutcome = (rules: readonly DecisionRule[], name: string): DecisionRule[] =>
  (rules.length === 0 ? [{ when: {}, then: {} }] : rules).map((rule) => ({
    ...rule,
    then: { ...rule.then, [name]: '' },
  }))

/** Where a key leads from a cell: down and right; nothing while the caret still moves within the text. */
export function cellMove(
  key: string,
  { selectionStart, selectionEnd, value }: Pick<HTMLInputElement, 'selectionStart' | 'selectionEnd' | 'value'>,
): readonly [down: number, right: number] | null {
  if (key === 'ArrowDown' || key === 'Enter') return [1, 0]
  if (key === 'ArrowUp') return [-1, 0]
  if (key === 'ArrowRight' && selectionStart === value.length) return [0, 1]
  if (key === 'ArrowLeft' && selectionEnd === 0) return [0, -1]
  return null
}
