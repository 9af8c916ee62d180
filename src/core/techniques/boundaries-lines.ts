import { bare } from '#core/lib/bare.ts'
import { endsProblems, stepProblem } from './boundaries.ts'
import {
  cut,
  each,
  type FromLines,
  LineError,
  named,
  placeIn,
  plain,
  type Reading,
  type Source,
  written,
} from './line-reader.ts'
import type { BoundaryInput } from './models.ts'

const types = ['integer', 'decimal', 'date', 'length', 'set'] as const
const limits = [
  { form: /^(.+?)\s+and\s+(?:up|later|longer)$/i, read: ([from = '']: string[]) => ({ from }) },
  { form: /^(?:up|until|at most)\s+(?:to\s+)?(.+)$/i, read: ([to = '']: string[]) => ({ to }) },
  { form: /^(.+?)\s+to\s+(.+)$/i, read: ([from = '', to = '']: string[]) => ({ from, to }) },
  { form: /^any$/i, read: () => bare<string>() },
  { form: /^(.+)$/, read: ([only = '']: string[]) => ({ from: only, to: only }) },
]

type Partition = BoundaryInput['partitions'][number]

/** `age: integer, in years`, `price: decimal step 0.01`. */
function inputOf(name: string, rest: string): BoundaryInput {
  const type = types.find((known) => new RegExp(`^${known}\\b`, 'i').test(rest.trim()))
  if (!type) throw new LineError(`Say what ${name} is: integer, decimal step 0.1, date, length or set.`)
  const step = /\bstep\s+(\d+(?:\.\d+)?)/i.exec(rest)?.[1]
  const unit = /\bin\s+([^,]+)/i.exec(rest)?.[1]?.trim()
  const input = { type, partitions: [], ...(step !== undefined && { step: Number(step) }), ...(unit && { unit }) }
  const problem = stepProblem(name, input)
  if (problem) throw new LineError(problem)
  return input
}

/** `child: 4 to 15`, `too old: 131 and up (invalid)`, of a set `paid by: card, voucher`. */
function partitionOf(name: string, rest: string, type: BoundaryInput['type']): Partition {
  const valid = !/\(invalid\)\s*$/i.test(rest)
  const text = rest.replace(/\(invalid\)\s*$/i, '').trim()
  if (text === '') throw new LineError('Say which values it holds: 4 to 15, 131 and up, up to 3.')
  if (type === 'set') return { name, valid, values: cut(text, ',').map(plain).filter(Boolean) }
  const number = (value: string): string | number =>
    type === 'date' || value.trim() === '' || Number.isNaN(Number(value)) ? value.trim() : Number(value)
  const limit = limits.map(({ form, read }) => ({ match: form.exec(text), read })).find(({ match }) => match)!
  const ends = Object.entries(limit.read([...limit.match!].slice(1)))
  const partition: Partition = {
    name,
    valid,
    ...Object.fromEntries<string | number>(ends.map(([end, value]) => [end, number(value)])),
  }
  const [problem] = endsProblems(type, partition)
  if (problem) throw new LineError(problem.message)
  return partition
}

/**
 * An input is a line `age: integer, in years`; the partitions follow, indented: `child: 4 to 15`, `too old: 131 and up (invalid)`. An
 * input from which no row can be made yet is told and left out, where others are there to go on with.
 */
export function boundariesFromLines(
  source: Source,
  edges: 2 | 3,
): FromLines<{ inputs: Record<string, BoundaryInput>; values: 2 | 3 }> {
  const reading: Reading = { problems: [], places: new Map() }
  const inputs = bare<BoundaryInput>()
  let open: string | null = null
  /** What stands below an input that could not be read is not told line by line. */
  let skipping = false
  each(source, 'inputs', reading, (line, at) => {
    const place = { section: 'inputs', line: at }
    if (!/^\s/.test(line)) {
      open = null
      skipping = true
      const [name, rest] = named(line)
      if (inputs[name]) throw new LineError(`There is an input ${name} already; its first line counts.`)
      inputs[name] = inputOf(name, rest)
      reading.places.set(`inputs.${name}`, place)
      open = name
      return
    }
    if (open === null && skipping) return
    const [name, rest] = named(line)
    if (open === null)
      throw new LineError('This partition belongs to no input; write the input above it, not indented.')
    const { partitions, type } = inputs[open]!
    if (partitions.some((other) => other.name === name))
      throw new LineError(`${open} has a partition ${name} already; its first line counts.`)
    const partition = partitionOf(name, rest, type)
    reading.places.set(`inputs.${open}.partitions[${partitions.length}]`, place)
    partitions.push(partition)
  })
  leaveOutUnfinished(inputs, reading)
  return { body: { inputs, values: edges }, problems: reading.problems, placeOf: placeIn(reading) }
}

const unfinished = (name: string, { partitions }: BoundaryInput): string | null =>
  partitions.length === 0
    ? `${name} has no partitions yet. Write them below it, indented: child: 4 to 15.`
    : partitions.some(({ valid }) => valid)
      ? null
      : `${name} has no valid value. Take “(invalid)” from a partition that is accepted.`

function leaveOutUnfinished(inputs: Record<string, BoundaryInput>, { problems, places }: Reading): void {
  const found = Object.entries(inputs).flatMap(([name, input]) => {
    const message = unfinished(name, input)
    return message === null ? [] : [{ name, message }]
  })
  for (const { name, message } of found) {
    problems.push({ ...places.get(`inputs.${name}`)!, message })
    if (found.length < Object.keys(inputs).length) delete inputs[name]
  }
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
