import { bare } from '#core/lib/bare.ts'
import { ruleLine } from './combos-lines.ts'
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
  written,
} from './line-reader.ts'
import type { DecisionsModel } from './models.ts'

export function decisionsFromLines(source: Source, rules: DecisionsModel['rules']): FromLines<DecisionsModel> {
  const reading: Reading = { problems: [], places: new Map() }
  const body: DecisionsModel = { conditions: bare(), rules, impossible: [] }
  each(source, 'conditions', reading, (line, at) => {
    const [name, rest] = named(line)
    if (body.conditions[name]) throw new LineError(`There is a condition ${name} already; its first line counts.`)
    const place = { section: 'conditions', line: at }
    const own = once(cut(rest, ',').map(plain).filter(Boolean), (value) => value, { reading, place, name })
    if (own.length === 0) throw new LineError(`${name} has no values yet.`)
    body.conditions[name] = own
    reading.places.set(`conditions.${name}`, place)
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
