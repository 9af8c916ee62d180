import { outcomeText } from './decisions.ts'
import { type DraftModel } from './draft-row.ts'
import type { Source } from './line-reader.ts'

/** A model as it is typed: its lines, and the model of which they say the rest. */
export interface ModelText {
  readonly rest: DraftModel
  readonly source: Source
}

/** What stands in no line, by technique. */
const settings = {
  boundaries: ['values'],
  combos: ['strength'],
  decisions: ['rules', 'per'],
  paths: ['criterion', 'invalid'],
} as const
type Setting = (typeof settings)[keyof typeof settings][number]

/** A part of a model: lines of a section, or one of the settings. */
interface Part {
  readonly name: string
  readonly setting: Setting | null
}

const partsOf = (texts: readonly ModelText[]): Part[] => [
  ...[...new Set(texts.flatMap(({ source }) => Object.keys(source)))].map((name) => ({ name, setting: null })),
  ...settings[texts[0]!.rest.technique].map((setting) => ({ name: setting, setting })),
]

function settingOf(model: DraftModel, name: Setting): unknown {
  const all: Readonly<Record<string, unknown>> = { ...model.body, ...model }
  return all[name]
}

/** The model with a setting of another one of its technique. */
function withSettingOf(into: DraftModel, from: DraftModel, name: Setting): DraftModel {
  if (into.technique === 'combos' && from.technique === 'combos')
    return { ...into, body: { ...into.body, strength: from.body.strength } }
  if (into.technique === 'boundaries' && from.technique === 'boundaries')
    return { ...into, body: { ...into.body, values: from.body.values } }
  if (into.technique === 'decisions' && from.technique === 'decisions')
    return name === 'rules' ? { ...into, body: { ...into.body, rules: from.body.rules } } : { ...into, per: from.per }
  if (into.technique === 'paths' && from.technique === 'paths')
    return name === 'invalid' ? { ...into, invalid: from.invalid } : { ...into, criterion: from.criterion }
  return into
}

/** The lines of a section as they count: an empty one says nothing. */
const linesIn = ({ source }: ModelText, name: string): readonly string[] =>
  (source[name] ?? []).map((line) => line.trimEnd()).filter((line) => line !== '')

/** A part in words, to compare and to be read. */
function said(text: ModelText, { name, setting }: Part): string {
  if (setting === null) return linesIn(text, name).join('\n')
  const { rest } = text
  if (setting !== 'rules' || rest.technique !== 'decisions') return String(settingOf(rest, setting))
  return rest.body.rules
    .map(({ when, then }) => {
      const terms = Object.entries(when).map(([condition, values]) => `${condition} ${values.join(' or ')}`)
      return `${terms.join(', ') || 'always'} → ${outcomeText(then)}`
    })
    .join('\n')
}

const taken = (into: ModelText, from: ModelText, { name, setting }: Part): ModelText =>
  setting === null
    ? { ...into, source: { ...into.source, [name]: from.source[name] ?? [] } }
    : { ...into, rest: withSettingOf(into.rest, from.rest, setting) }

/** A part that two wrote differently at once. */
export interface ModelClash extends Part {
  readonly mine: string
  readonly theirs: string
}

export const saysTheSameModel = (one: ModelText, other: ModelText): boolean =>
  partsOf([one, other]).every((part) => said(one, part) === said(other, part))

/**
 * Three-way merge of a model by part: what only one changed is taken from that one; what both changed differently is mine until it is
 * decided, and told.
 */
export function mergedModel(
  base: ModelText,
  mine: ModelText,
  theirs: ModelText,
): { readonly text: ModelText; readonly clashes: readonly ModelClash[] } {
  let text = mine
  const clashes: ModelClash[] = []
  for (const part of partsOf([base, mine, theirs])) {
    const [b, m, t] = [base, mine, theirs].map((each) => said(each, part)) as [string, string, string]
    if (m === b) text = taken(text, theirs, part)
    else if (t !== b && m !== t) clashes.push({ ...part, mine: m, theirs: t })
  }
  return { text, clashes }
}

/** The model after theirs was chosen in this place. */
export const withTheirs = (text: ModelText, theirs: ModelText, clash: ModelClash): ModelText =>
  taken(text, theirs, clash)
