import { bare } from '#core/lib/bare.ts'
import { ruleText } from './combos-model.ts'
import {
  cut,
  each,
  type FromLines,
  LineError,
  named,
  once,
  placeIn,
  plain,
  type Reading,
  type Source,
  TermReader,
  type Vocabulary,
  written,
} from './line-reader.ts'
import type { CombosModel, CombosRule } from './models.ts'

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
export const ruleLine = (rule: CombosRule): string => ruleText(quotedRule(rule))
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
    const twice = { reading, place: { section: 'parameters', line: at }, name }
    const own = once(values(ordinary), ({ value }) => value, twice)
    if (own.length === 0) throw new LineError(`${name} has no ${bad === '' ? '' : 'ordinary '}values yet.`)
    body.parameters[name] = own.map(({ value }) => value)
    const negative = once([...own, ...values(bad)], ({ value }) => value, twice)
      .slice(own.length)
      .map(({ value }) => value)
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
