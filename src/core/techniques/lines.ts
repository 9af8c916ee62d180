import { bare } from '#core/lib/bare.ts'
import { ruleText } from './combos-model.ts'
import type { DraftModel } from './draft-row.ts'
import type { BoundaryInput, CombosModel, CombosRule, DecisionsModel, PathsModel } from './models.ts'
import { transitionText } from './paths.ts'

/** The lines a person types a model in, by the part of the model they are about. */
export type Source = Readonly<Record<string, readonly string[]>>

export interface LineProblem {
  readonly section: string
  /** From 0. */
  readonly line: number
  readonly message: string
}

export interface FromLines<T> {
  readonly body: T
  readonly problems: readonly LineProblem[]
  /** Where a path into the body was written. */
  readonly placeOf: (path: string) => { readonly section: string; readonly line: number } | null
}

class LineError extends Error {}

const quoted = /^"((?:[^"]|"")*)"$/
const special = /[",|:×()]|^\s|\s$/

/** A value as it is written in a line: in quotes where it holds a sign of the line's own. */
export const written = (value: string): string =>
  special.test(value) || value === '' ? `"${value.replaceAll('"', '""')}"` : value

/** Splits at a sign outside quotes. */
function cut(text: string, sign: string): string[] {
  const parts: string[] = ['']
  let inside = false
  for (const letter of text) {
    if (letter === '"') inside = !inside
    if (letter === sign && !inside) parts.push('')
    else parts[parts.length - 1] += letter
  }
  if (inside) throw new LineError('A quotation mark is not closed.')
  return parts
}

const plain = (text: string): string => {
  const trimmed = text.trim()
  return quoted.exec(trimmed)?.[1]?.replaceAll('""', '"') ?? trimmed
}

/** `name: rest`. */
function named(line: string): readonly [name: string, rest: string] {
  const [name = '', ...rest] = cut(line, ':')
  if (rest.length === 0) throw new LineError('Write a name, a colon, and its values: device: phone, desk.')
  if (plain(name) === '') throw new LineError('The name before the colon is missing.')
  return [plain(name), rest.join(':')]
}

interface Reading {
  readonly problems: LineProblem[]
  readonly places: Map<string, { readonly section: string; readonly line: number }>
}

/** Reads the lines of a section one by one; an empty line is skipped, one that cannot be read is told and left out. */
function each(source: Source, section: string, { problems }: Reading, read: (line: string, at: number) => void): void {
  for (const [at, line] of (source[section] ?? []).entries()) {
    if (line.trim() === '') continue
    try {
      read(line, at)
    } catch (error) {
      if (!(error instanceof LineError)) throw error
      problems.push({ section, line: at, message: error.message })
    }
  }
}

const placeIn =
  ({ places }: Reading) =>
  (path: string) => {
    // The longest written path that the asked one lies in.
    const found = [...places.keys()]
      .filter((known) => path === known || path.startsWith(`${known}.`) || path.startsWith(`${known}[`))
      .sort((a, b) => b.length - a.length)[0]
    return found === undefined ? null : places.get(found)!
  }

interface Vocabulary {
  readonly [name: string]: readonly string[]
}

/** Reads terms of known names and values, whatever words and signs those hold, by trying the longest first. */
class TermReader {
  at = 0
  constructor(
    readonly text: string,
    readonly words: Vocabulary,
  ) {}

  done(): boolean {
    return this.text.slice(this.at).trim() === ''
  }

  /** Takes a fixed word, with white space around it. */
  take(word: string): boolean {
    const rest = this.text.slice(this.at)
    const skipped = rest.length - rest.trimStart().length
    const next = rest.slice(skipped, skipped + word.length)
    const after = rest[skipped + word.length]
    if (next.toLowerCase() !== word || (/\w$/.test(word) && after !== undefined && /[\p{L}\p{N}_]/u.test(after)))
      return false
    this.at += skipped + word.length
    return true
  }

  #known(of: readonly string[], what: string): string {
    const rest = this.text.slice(this.at).trimStart()
    const ends = (word: string): boolean =>
      rest.length === word.length || !/[\p{L}\p{N}_]/u.test(rest[word.length]!) || !/[\p{L}\p{N}_]$/u.test(word)
    const forms = of
      .flatMap((word) => [
        { word, form: word },
        { word, form: written(word) },
      ])
      .sort((a, b) => b.form.length - a.form.length)
    const found =
      forms.find(({ form }) => rest.startsWith(form) && ends(form)) ??
      forms.find(({ form }) => rest.toLowerCase().startsWith(form.toLowerCase()) && ends(form))
    if (!found)
      throw new LineError(
        `There is no ${what} here: “${rest.slice(0, 40)}”.${of.length > 0 && of.length <= 8 ? ` It can be ${of.join(', ')}.` : ''}`,
      )
    this.at = this.text.length - rest.length + found.form.length
    return found.word
  }

  /** `name is value or value`; with `never` the `is` may be left out. */
  term(needsIs: boolean): readonly [name: string, values: string[]] {
    const name = this.#known(Object.keys(this.words), 'parameter')
    if (!this.take('is') && needsIs) throw new LineError(`“is” is missing after ${name}.`)
    const values = [this.#known(this.words[name]!, `value of ${name}`)]
    while (this.take('or')) values.push(this.#known(this.words[name]!, `value of ${name}`))
    return [name, values]
  }

  terms(joint: string, needsIs: boolean): Record<string, string[]> {
    const all = bare<string[]>()
    do {
      const [name, values] = this.term(needsIs)
      if (all[name]) throw new LineError(`${name} stands twice in the rule.`)
      all[name] = values
    } while (this.take(joint))
    return all
  }
}

/** `when a is x, b is y or z`, `never a x with b y`, or `b is y` for always. */
export function readRule(line: string, words: Vocabulary): CombosRule {
  const reader = new TermReader(line, words)
  const rule: CombosRule = reader.take('never')
    ? { forbid: reader.terms('with', false) }
    : reader.take('when')
      ? { if: reader.terms('and', true), then: consequence(reader) }
      : { if: {}, then: reader.terms('and', true) }
  if (!reader.done()) throw new LineError(`This is not understood: “${line.slice(reader.at).trim().slice(0, 40)}”.`)
  return rule
}

function consequence(reader: TermReader): Record<string, string[]> {
  if (!reader.take(',')) throw new LineError('A comma and what then holds are missing: when … is …, … is ….')
  return reader.terms('and', true)
}

/** A rule as a line; names and values that hold signs of the line are quoted. */
const ruleLine = (rule: CombosRule): string => ruleText(quotedRule(rule))
const quotedTerms = (terms: Readonly<Record<string, readonly string[]>>): Record<string, string[]> =>
  Object.fromEntries(Object.entries(terms).map(([name, values]) => [written(name), [...values].map(written)]))
const quotedRule = (rule: CombosRule): CombosRule =>
  'forbid' in rule ? { forbid: quotedTerms(rule.forbid) } : { if: quotedTerms(rule.if), then: quotedTerms(rule.then) }

const groupNames = ['', 'values', 'pairs', 'triples', 'quadruples', 'quintuples', 'sextuples']

export function combosFromLines(source: Source, strength: number): FromLines<CombosModel> {
  const reading: Reading = { problems: [], places: new Map() }
  const body: CombosModel = {
    parameters: bare(),
    strength,
    stronger: [],
    negative: bare(),
    constraints: [],
    weights: bare(),
  }
  each(source, 'parameters', reading, (line, at) => {
    const [name, rest] = named(line)
    if (body.parameters[name]) throw new LineError(`There is a parameter ${name} already; its first line counts.`)
    const [ordinary = '', bad = '', ...more] = cut(rest, '|')
    if (more.length > 0) throw new LineError('One bar divides ordinary values from negative ones; here are several.')
    const own = values(ordinary)
    body.parameters[name] = own.map(({ value }) => value)
    const negative = values(bad).map(({ value }) => value)
    if (negative.length > 0) body.negative[name] = negative
    const weighed = own.filter(({ weight }) => weight !== null)
    if (weighed.length > 0)
      body.weights[name] = bare(Object.fromEntries(weighed.map(({ value, weight }) => [value, weight!])))
    for (const part of ['parameters', 'negative', 'weights'])
      reading.places.set(`${part}.${name}`, { section: 'parameters', line: at })
  })
  const words = bare(
    Object.fromEntries(
      Object.entries(body.parameters).map(([name, own]) => [name, [...own, ...(body.negative[name] ?? [])]]),
    ),
  )
  each(source, 'rules', reading, (line, at) => {
    body.constraints.push(readRule(line, words))
    reading.places.set(`constraints[${body.constraints.length - 1}]`, { section: 'rules', line: at })
  })
  each(source, 'groups', reading, (line, at) => {
    const [, size = '', rest = ''] = /^\s*(\S+)\s+of\s+(.*)$/i.exec(line) ?? []
    const own = groupNames.indexOf(size.toLowerCase())
    if (own < 1) throw new LineError('Write what is to be combined more: triples of payment, vehicle, concession.')
    const of = cut(rest, ',').map(plain).filter(Boolean)
    const unknown = of.find((name) => !body.parameters[name])
    if (unknown !== undefined || of.length === 0)
      throw new LineError(unknown ? `There is no parameter ${unknown}.` : 'No parameter is named.')
    body.stronger.push({ of, strength: own })
    reading.places.set('stronger', { section: 'groups', line: at })
  })
  return { body, problems: reading.problems, placeOf: placeIn(reading) }
}

/** Values with commas between them; ` ×3` after one is its weight. */
function values(text: string): { readonly value: string; readonly weight: number | null }[] {
  return cut(text, ',')
    .filter((part) => part.trim() !== '')
    .map((part) => {
      const [, value = part, weight] = /^(.*?)\s+[×*]\s*(\d+(?:\.\d+)?)\s*$/.exec(part) ?? []
      return { value: plain(value), weight: weight === undefined ? null : Number(weight) }
    })
}

export function combosLines({ parameters, negative, weights, constraints, stronger }: CombosModel): Source {
  return {
    parameters: Object.entries(parameters).map(
      ([name, own]) =>
        `${written(name)}: ${own.map((value) => `${written(value)}${weights[name]?.[value] === undefined ? '' : ` ×${weights[name][value]}`}`).join(', ')}${negative[name]?.length ? ` | ${negative[name].map(written).join(', ')}` : ''}`,
    ),
    rules: constraints.map(ruleLine),
    groups: stronger.map(({ of, strength }) => `${groupNames[strength]!} of ${of.map(written).join(', ')}`),
  }
}

const types = ['integer', 'decimal', 'date', 'length', 'set'] as const
const limits = [
  { form: /^(.+?)\s+to\s+(.+)$/i, read: ([from = '', to = '']: string[]) => ({ from, to }) },
  { form: /^(.+?)\s+and\s+(?:up|later|longer)$/i, read: ([from = '']: string[]) => ({ from }) },
  { form: /^(?:up|until|at most)\s+(?:to\s+)?(.+)$/i, read: ([to = '']: string[]) => ({ to }) },
  { form: /^any$/i, read: () => bare<string>() },
  { form: /^(.+)$/, read: ([only = '']: string[]) => ({ from: only, to: only }) },
]

/** An input is a line `age: integer, in years`; the partitions follow, indented: `child: 4 to 15`, `too old: 131 and up (invalid)`. */
export function boundariesFromLines(
  source: Source,
  edges: 2 | 3,
): FromLines<{ inputs: Record<string, BoundaryInput>; values: 2 | 3 }> {
  const reading: Reading = { problems: [], places: new Map() }
  const inputs = bare<BoundaryInput>()
  let open: string | null = null
  each(source, 'inputs', reading, (line, at) => {
    const [name, rest] = named(line)
    if (!/^\s/.test(line)) {
      open = null
      if (inputs[name]) throw new LineError(`There is an input ${name} already; its first line counts.`)
      const type = types.find((known) => new RegExp(`^${known}\\b`, 'i').test(rest.trim()))
      if (!type) throw new LineError(`Say what ${name} is: integer, decimal step 0.1, date, length or set.`)
      const step = /\bstep\s+(\d+(?:\.\d+)?)/i.exec(rest)?.[1]
      const unit = /\bin\s+([^,]+)/i.exec(rest)?.[1]?.trim()
      inputs[name] = { type, partitions: [], ...(step !== undefined && { step: Number(step) }), ...(unit && { unit }) }
      open = name
      reading.places.set(`inputs.${name}`, { section: 'inputs', line: at })
      return
    }
    if (open === null)
      throw new LineError('This partition belongs to no input; write the input above it, not indented.')
    const valid = !/\(invalid\)\s*$/i.test(rest)
    const text = rest.replace(/\(invalid\)\s*$/i, '').trim()
    const input = inputs[open]!
    if (text === '') throw new LineError('Say which values it holds: 4 to 15, 131 and up, up to 3.')
    const number = (value: string): string | number =>
      input.type === 'date' || value.trim() === '' || Number.isNaN(Number(value)) ? value.trim() : Number(value)
    const limit = limits.map(({ form, read }) => ({ match: form.exec(text), read })).find(({ match }) => match)!
    const ends =
      input.type === 'set'
        ? { values: cut(text, ',').map(plain).filter(Boolean) }
        : Object.fromEntries(
            Object.entries(limit.read([...limit.match!].slice(1))).map(([end, value]) => [end, number(value)]),
          )
    reading.places.set(`inputs.${open}.partitions[${input.partitions.length}]`, { section: 'inputs', line: at })
    input.partitions.push({ name, valid, ...ends })
  })
  return { body: { inputs, values: edges }, problems: reading.problems, placeOf: placeIn(reading) }
}

export function boundariesLines(inputs: Readonly<Record<string, BoundaryInput>>): Source {
  const limit = ({ from, to, values: own }: BoundaryInput['partitions'][number], set: boolean): string =>
    set
      ? (own ?? []).map(written).join(', ')
      : from === undefined
        ? to === undefined
          ? 'any'
          : `up to ${to}`
        : to === undefined
          ? `${from} and up`
          : from === to
            ? String(from)
            : `${from} to ${to}`
  return {
    inputs: Object.entries(inputs).flatMap(([name, { type, step, unit, partitions }]) => [
      `${written(name)}: ${type}${step === undefined ? '' : ` step ${step}`}${unit ? `, in ${unit}` : ''}`,
      ...partitions.map(
        (each) => `  ${written(each.name)}: ${limit(each, type === 'set')}${each.valid ? '' : ' (invalid)'}`,
      ),
    ]),
  }
}

export function decisionsFromLines(source: Source, rules: DecisionsModel['rules']): FromLines<DecisionsModel> {
  const reading: Reading = { problems: [], places: new Map() }
  const body: DecisionsModel = { conditions: bare(), rules, impossible: [] }
  each(source, 'conditions', reading, (line, at) => {
    const [name, rest] = named(line)
    if (body.conditions[name]) throw new LineError(`There is a condition ${name} already; its first line counts.`)
    const own = cut(rest, ',').map(plain).filter(Boolean)
    if (own.length === 0) throw new LineError(`${name} has no values yet.`)
    body.conditions[name] = own
    reading.places.set(`conditions.${name}`, { section: 'conditions', line: at })
  })
  each(source, 'impossible', reading, (line, at) => {
    const reader = new TermReader(line.replace(/^\s*never\s+/i, ''), body.conditions)
    body.impossible.push(reader.terms('with', false))
    if (!reader.done()) throw new LineError('This is not understood. Write: never resident yes with age infant.')
    reading.places.set(`impossible[${body.impossible.length - 1}]`, { section: 'impossible', line: at })
  })
  return { body, problems: reading.problems, placeOf: placeIn(reading) }
}

export const decisionsLines = ({ conditions, impossible }: DecisionsModel): Source => ({
  conditions: Object.entries(conditions).map(([name, own]) => `${written(name)}: ${own.map(written).join(', ')}`),
  impossible: impossible.map((terms) => ruleLine({ forbid: terms })),
})

const arrow = /^(.+?)\s+[-–]+\s*(.*?)\s*(?:\[([^\]]*)\]\s*)?(?:[-–]*>|→)\s*(.+)$/u

/** `begins at held`, `ends at sailed, refunded`, and transitions `held -pay [card accepted]-> paid`. */
export function pathsFromLines(source: Source): FromLines<PathsModel> {
  const reading: Reading = { problems: [], places: new Map() }
  const transitions: PathsModel['transitions'] = []
  let initial = ''
  let final: string[] | undefined
  each(source, 'transitions', reading, (line, at) => {
    const begins = /^\s*begins at\s+(.+)$/i.exec(line)?.[1]
    const ends = /^\s*ends at\s+(.+)$/i.exec(line)?.[1]
    if (begins !== undefined) {
      initial = begins.trim()
      reading.places.set('initial', { section: 'transitions', line: at })
    } else if (ends !== undefined) {
      final = ends
        .split(',')
        .map((state) => state.trim())
        .filter(Boolean)
      reading.places.set('final', { section: 'transitions', line: at })
    } else {
      const [, from = '', event = '', guard, to = ''] = arrow.exec(line) ?? []
      if (to === '') throw new LineError('Write a state, an event and the next state: held -pay-> paid.')
      reading.places.set(`transitions[${transitions.length}]`, { section: 'transitions', line: at })
      transitions.push({ from: from.trim(), event, guard: guard?.trim() || undefined, to: to.trim() })
    }
  })
  const body: PathsModel = {
    initial: initial || (transitions[0]?.from ?? 'start'),
    transitions,
    ...(final && { final }),
  }
  return { body, problems: reading.problems, placeOf: placeIn(reading) }
}

export const pathsLines = ({ initial, final, transitions }: PathsModel): Source => ({
  transitions: [
    `begins at ${initial}`,
    ...(final && final.length > 0 ? [`ends at ${final.join(', ')}`] : []),
    ...transitions.map(transitionText),
  ],
})

/** The lines of any model, for one that came without them. */
export function linesOf(model: DraftModel): Source {
  if (model.technique === 'combos') return combosLines(model.body)
  if (model.technique === 'boundaries') return boundariesLines(model.body.inputs)
  return model.technique === 'decisions' ? decisionsLines(model.body) : pathsLines(model.body)
}

/** A model again after its lines have changed; what the lines do not say stays as it was. */
export function withLines(
  model: DraftModel,
  source: Source,
): {
  readonly model: DraftModel
  readonly problems: readonly LineProblem[]
  readonly placeOf: FromLines<unknown>['placeOf']
} {
  if (model.technique === 'combos') {
    const { body, ...rest } = combosFromLines(source, model.body.strength)
    return { model: { ...model, body }, ...rest }
  }
  if (model.technique === 'boundaries') {
    const { body, ...rest } = boundariesFromLines(source, model.body.values)
    return { model: { ...model, body }, ...rest }
  }
  if (model.technique === 'decisions') {
    const { body, ...rest } = decisionsFromLines(source, model.body.rules)
    return { model: { ...model, body }, ...rest }
  }
  const { body, ...rest } = pathsFromLines(source)
  return { model: { ...model, body }, ...rest }
}
