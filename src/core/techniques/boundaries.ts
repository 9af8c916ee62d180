import { counted } from '#core/lib/figures.ts'
import { type FieldProblem, Refusal } from '#core/lib/refusal.ts'
import type { BoundariesModel, BoundaryInput } from './models.ts'

type BoundaryValue = number | string

export interface BoundaryCase {
  readonly input: string
  readonly value: BoundaryValue
  /** `null` for a value outside all partitions. */
  readonly partition: string | null
  readonly valid: boolean
  readonly why: string
}

interface BoundarySpan {
  readonly input: string
  readonly from: BoundaryValue
  readonly to: BoundaryValue
}

export interface BoundariesAnswer {
  readonly cases: readonly BoundaryCase[]
  /** Each holds a value for every input, and names the one whose value is not valid. */
  readonly rows: readonly Readonly<Record<string, BoundaryValue | null>>[]
  readonly gaps: readonly BoundarySpan[]
  readonly overlaps: readonly (BoundarySpan & { readonly partitions: readonly string[] })[]
}

const day = 86_400_000
const dateText = /^\d{4}-\d{2}-\d{2}$/

/** A partition of a line, its ends counted in steps from the line's zero; an end left open is infinite. */
interface Span {
  readonly name: string
  readonly valid: boolean
  readonly from: number
  readonly to: number
}

/** Numbers of the machine tell about so many decimal places apart. */
const mostDigits = 15

/** How the values of an input stand on a line of whole steps. */
interface Line {
  readonly spans: readonly Span[]
  readonly least: number
  readonly at: (steps: number) => BoundaryValue
}

/**
 * Turns the values of an ordered input into whole numbers of steps, so that no fraction is ever added. A decimal's zero is 0,
 * a date's the first of January 1970.
 */
function lineOf(name: string, input: BoundaryInput, problems: FieldProblem[]): Line {
  const path = `inputs.${name}`
  const step = input.step ?? 1
  const digits = digitsOf(name, input, problems)
  const scale = 10 ** digits
  const unit = input.type === 'date' ? day * step : Math.round(step * scale)
  const read = (value: number | string | undefined, open: number): number => {
    if (value === undefined) return open
    return input.type === 'date' ? Number(instantOf(value)) / unit : Math.round(Number(value) * scale) / unit
  }
  const spans = input.partitions.map((partition, index): Span => {
    for (const { end, message } of endsProblems(input.type, partition))
      problems.push({ field: `${path}.partitions[${index}]${end && `.${end}`}`, message })
    return {
      name: partition.name,
      valid: partition.valid,
      from: read(partition.from, input.type === 'length' ? 0 : -Infinity),
      to: read(partition.to, Infinity),
    }
  })
  const at = (steps: number): BoundaryValue =>
    input.type === 'date'
      ? new Date(steps * day * step).toISOString().slice(0, 10)
      : Number(((steps * unit) / scale).toFixed(digits))
  return { spans, least: input.type === 'length' ? 0 : -Infinity, at }
}

interface EndsProblem {
  /** Empty where both are meant. */
  readonly end: 'from' | 'to' | ''
  readonly message: string
}

/** What is wrong with the ends of a partition: a value of another type, or an end before the beginning. */
export function endsProblems(
  type: BoundaryInput['type'],
  { name, from, to }: BoundaryInput['partitions'][number],
): readonly EndsProblem[] {
  const read = ({ value, end }: { readonly value: number | string | undefined; readonly end: 'from' | 'to' }) => ({
    end,
    is: value === undefined ? null : type === 'date' ? instantOf(value) : numberOf(value, type),
  })
  const [first, last] = [read({ value: from, end: 'from' }), read({ value: to, end: 'to' })]
  const found = [first, last].flatMap(({ end, is }) => (typeof is === 'string' ? [{ end, message: is }] : []))
  if (typeof first.is !== 'number' || typeof last.is !== 'number' || first.is <= last.is) return found
  return [{ end: '', message: `${name} begins at ${String(from)} and ends before, at ${String(to)}.` }]
}

/** What is wrong with the step of an input. */
export function stepProblem(name: string, { type, step }: Pick<BoundaryInput, 'type' | 'step'>): string | null {
  if (type === 'decimal' && step === undefined)
    return `${name} is a decimal: say by which step its values differ, such as 0.01.`
  if (step !== undefined && step <= 0) return `The step of ${name} is above 0.`
  return type !== 'decimal' && !Number.isInteger(step ?? 1) ? `The step of ${name} is a whole number.` : null
}

/** How many decimal places the values of an input have. */
function digitsOf(name: string, input: BoundaryInput, problems: FieldProblem[]): number {
  const field = `inputs.${name}.step`
  const { step, partitions } = input
  const problem = stepProblem(name, input)
  if (problem) problems.push({ field, message: problem })
  const values = [step ?? 1, ...partitions.flatMap(({ from, to }) => [from, to])]
  const asked = Math.max(...values.map((value) => (typeof value === 'number' ? decimals(value) : 0)))
  if (asked > mostDigits)
    problems.push({
      field,
      message: `The values of ${name} have ${asked} decimal places; more than ${mostDigits} cannot be told apart.`,
    })
  return Math.min(asked, mostDigits)
}

/** A date as milliseconds, or what is wrong with it. */
function instantOf(value: number | string): number | string {
  const instant = typeof value === 'string' && dateText.test(value) ? Date.parse(`${value}T00:00:00Z`) : NaN
  const holds = !Number.isNaN(instant) && new Date(instant).toISOString().slice(0, 10) === value
  return holds ? instant : `${String(value)} is no date; a date looks like 2026-11-23.`
}

/** A number that fits its type, or what is wrong with it. */
function numberOf(value: number | string, type: BoundaryInput['type']): number | string {
  const number = Number(value)
  if (!Number.isFinite(number) || String(value).trim() === '') return `${String(value)} is no number.`
  if (type !== 'decimal' && !Number.isInteger(number)) return `${number} is no whole number.`
  return type === 'length' && number < 0 ? 'A length is not below 0.' : number
}

function decimals(value: number): number {
  const [digits = '', exponent] = String(value).split('e')
  const after = digits.split('.')[1]?.length ?? 0
  return Math.max(0, after - Number(exponent ?? 0))
}

/** Is a value taken by the partitions as they are? What is outside all of them is refused. */
export function isTaken({ type, partitions }: BoundaryInput, value: string): boolean {
  if (type === 'set') return partitions.some((each) => each.valid && each.values?.includes(value))
  const notAfter = (a: number | string, b: number | string): boolean =>
    type === 'date' ? String(a) <= String(b) : Number(a) <= Number(b)
  const own = partitions.find(
    ({ from, to }) => (from === undefined || notAfter(from, value)) && (to === undefined || notAfter(value, to)),
  )
  return own?.valid ?? false
}

/**
 * Equivalence classes and their boundaries: for each input the values on both sides of every edge (and, with 3 values, one step
 * further in), and rows that bring the inputs together. Valid values are combined so that each stands in some row; an invalid
 * value stands alone among valid ones, so that it cannot hide behind another.
 * Source: ISO/IEC/IEEE 29119-4, 5.2.1 and 5.2.3; G. J. Myers, "The Art of Software Testing", for one invalid value at a time.
 */
export function boundaries(model: BoundariesModel): BoundariesAnswer {
  const problems: FieldProblem[] = []
  const names = Object.keys(model.inputs)
  if (names.length === 0)
    problems.push({ field: 'inputs', message: 'The model has no inputs yet. Write one, such as age.' })
  const gaps: BoundarySpan[] = []
  const overlaps: BoundariesAnswer['overlaps'][number][] = []
  const cases = names.flatMap((name) => {
    const input = model.inputs[name]!
    if (input.partitions.length === 0)
      problems.push({ field: `inputs.${name}.partitions`, message: `${name} has no partitions yet.` })
    const seen = new Set<string>()
    input.partitions.forEach((partition, at) => {
      if (seen.has(partition.name))
        problems.push({
          field: `inputs.${name}.partitions[${at}].name`,
          message: `${name} has two partitions named ${partition.name}.`,
        })
      seen.add(partition.name)
    })
    if (input.type === 'set') return setCases(name, input, problems, overlaps)
    const line = lineOf(name, input, problems)
    if (problems.length > 0) return []
    gaps.push(...gapsOf(name, line))
    overlaps.push(...overlapsOf(name, line))
    return edgeCases(name, line, model.values)
  })
  for (const name of names)
    if (problems.length === 0 && !cases.some((each) => each.input === name && each.valid))
      problems.push({
        field: `inputs.${name}.partitions`,
        message: `${name} has no valid value, so no row can be made. Mark a partition as valid.`,
      })
  if (problems.length > 0)
    throw new Refusal('invalid', `The model yields no values: ${problems[0]!.message}`, { fields: problems })
  return { cases, rows: rowsOf(names, cases), gaps, overlaps }
}

function setCases(
  name: string,
  input: BoundaryInput,
  problems: FieldProblem[],
  overlaps: BoundariesAnswer['overlaps'][number][],
): BoundaryCase[] {
  const home = new Map<string, string>()
  return input.partitions.flatMap((partition, at) => {
    const path = `inputs.${name}.partitions[${at}]`
    if (!partition.values || partition.values.length === 0)
      problems.push({ field: `${path}.values`, message: `${partition.name} names no values.` })
    return [...new Set(partition.values ?? [])].flatMap((value): BoundaryCase[] => {
      const other = home.get(value)
      if (other !== undefined) {
        overlaps.push({ input: name, from: value, to: value, partitions: [other, partition.name] })
        return []
      }
      home.set(value, partition.name)
      return [
        {
          input: name,
          value,
          partition: partition.name,
          valid: partition.valid,
          why: `one of ${counted(partition.values!.length, 'value')} of ${partition.name}`,
        },
      ]
    })
  })
}

const sorted = (spans: readonly Span[]): Span[] => [...spans].sort((a, b) => a.from - b.from || a.to - b.to)

function gapsOf(input: string, { spans, at }: Line): BoundarySpan[] {
  const found: BoundarySpan[] = []
  let reached = -Infinity
  for (const [index, { from, to }] of sorted(spans).entries()) {
    if (index > 0 && from > reached + 1) found.push({ input, from: at(reached + 1), to: at(from - 1) })
    reached = Math.max(reached, to)
  }
  return found
}

function overlapsOf(input: string, { spans, at }: Line): BoundariesAnswer['overlaps'][number][] {
  const ordered = sorted(spans)
  return ordered.flatMap((first, index) =>
    ordered.slice(index + 1).flatMap((second) => {
      const from = Math.max(first.from, second.from)
      const to = Math.min(first.to, second.to)
      if (from > to) return []
      return [
        {
          input,
          from: Number.isFinite(from) ? at(from) : '',
          to: Number.isFinite(to) ? at(to) : '',
          partitions: [first.name, second.name],
        },
      ]
    }),
  )
}

function edgeCases(input: string, { spans, least, at }: Line, values: 2 | 3): BoundaryCase[] {
  const why = new Map<number, string[]>()
  const note = (value: number, reason: string): void => {
    if (value < least || !Number.isFinite(value)) return
    const reasons = why.get(value)
    if (!reasons) why.set(value, [reason])
    else if (!reasons.includes(reason)) reasons.push(reason)
  }
  for (const { name, from, to } of spans) {
    if (Number.isFinite(from)) {
      note(from, `first of ${name}`)
      // Below the least length there is nothing to try.
      note(from - 1, `just below ${name}`)
      if (values === 3) note(from + 1, `one step into ${name}`)
    }
    if (Number.isFinite(to)) {
      note(to, `last of ${name}`)
      note(to + 1, `just above ${name}`)
      if (values === 3) note(to - 1, `one step before the end of ${name}`)
    }
    if (!Number.isFinite(from) && !Number.isFinite(to)) note(0, `any value of ${name}, which has no edge`)
  }
  return [...why]
    .sort(([a], [b]) => a - b)
    .map(([value, reasons]) => {
      const home = spans.find(({ from, to }) => from <= value && value <= to)
      return {
        input,
        value: at(value),
        partition: home?.name ?? null,
        valid: home?.valid ?? false,
        why: home ? reasons.join(', ') : `${reasons.join(', ')}, outside all partitions`,
      }
    })
}

/** Valid values side by side, then each invalid one among valid ones. Shorter lists go round. */
function rowsOf(names: readonly string[], cases: readonly BoundaryCase[]): BoundariesAnswer['rows'] {
  const valid = names.map((name) => cases.filter((each) => each.input === name && each.valid))
  const longest = Math.max(...valid.map(({ length }) => length))
  const usual = (row: number): Record<string, BoundaryValue> =>
    Object.fromEntries(names.map((name, at) => [name, valid[at]![row % valid[at]!.length]!.value]))
  const rows: Record<string, BoundaryValue | null>[] = Array.from({ length: longest }, (_, row) => ({
    ...usual(row),
    invalid: null,
  }))
  cases
    .filter((each) => !each.valid)
    .forEach((each, at) => rows.push({ ...usual(at), [each.input]: each.value, invalid: each.input }))
  return rows
}
