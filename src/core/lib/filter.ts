import { z } from 'zod'
import { readJson } from './read-json.ts'

export const operators = ['is', 'is not', 'contains', 'above', 'below', 'is empty', 'is not empty'] as const
export type Operator = (typeof operators)[number]

export interface Condition {
  readonly field: string
  readonly op: Operator
  readonly values: readonly (string | number)[]
}
/** A filter is a condition, or a group of filters of which all or any must hold. */
export type Filter = Condition | { readonly all: readonly Filter[] } | { readonly any: readonly Filter[] }

const condition = z.object({
  field: z.string().max(60),
  op: z.enum(operators),
  values: z
    .array(z.union([z.string().max(200), z.number()]))
    .max(100_000)
    .default([]),
})

export const filterShape: z.ZodType<Filter> = z.lazy(() =>
  z.union([
    condition,
    z.object({ all: z.array(filterShape).max(50) }),
    z.object({ any: z.array(filterShape).max(50) }),
  ]),
)

/** A filter that is stored or stands in an address; `null` where there is none, or it is none. */
export function filterIn(text: string | null): Filter | null {
  const parsed = filterShape.safeParse(readJson(text ?? ''))
  return parsed.success ? parsed.data : null
}

/** Text of an address as a filter; a sentence when it is not one. */
export function parseFilter(
  text: string | undefined,
  fields: readonly FieldDefinition[],
): { filter: Filter | null } | { problem: string } {
  if (!text) return { filter: null }
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch {
    return { problem: 'The filter in the address cannot be read; start it again from the list.' }
  }
  const parsed = filterShape.safeParse(raw)
  if (!parsed.success)
    return {
      problem: `The filter in the address is not complete: ${parsed.error.issues[0]?.message ?? 'unknown shape'}.`,
    }
  const unknown = conditionsOf(parsed.data).find(({ field }) => !fields.some(({ name }) => name === field))
  return unknown ? { problem: `There is no field “${unknown.field}” to filter by here.` } : { filter: parsed.data }
}

export const conditionsOf = (filter: Filter): Condition[] =>
  'field' in filter ? [filter] : ('all' in filter ? filter.all : filter.any).flatMap(conditionsOf)

const partsAsked = (filter: Filter | null): readonly Filter[] =>
  filter === null ? [] : 'all' in filter ? filter.all : [filter]

/** What a filter asks of a field by a condition of its own, beside whatever else it asks. */
export const conditionOn = (filter: Filter | null, field: string): Condition | null =>
  partsAsked(filter).find((part): part is Condition => 'field' in part && part.field === field) ?? null

/** The filter with another condition on a field, or with none; what else it asks stays. */
export function withCondition(filter: Filter | null, field: string, condition: Condition | null): Filter | null {
  const before = conditionOn(filter, field)
  const kept = partsAsked(filter).filter((part) => part !== before)
  const parts = condition === null ? kept : [...kept, condition]
  const [only, ...more] = parts
  return only === undefined ? null : more.length === 0 ? only : { all: parts }
}

/** Does a condition ask for something, or does its value wait to be filled in? */
const isFilled = ({ op, values }: Condition): boolean =>
  op === 'is empty' || op === 'is not empty' || values.some((value) => value !== '')

/** The filter without conditions that are not filled in and groups that hold none; `null` when nothing is left of it. */
export function filledFilter(filter: Filter): Filter | null {
  if ('field' in filter) return isFilled(filter) ? filter : null
  const parts = ('all' in filter ? filter.all : filter.any).flatMap((part) => filledFilter(part) ?? [])
  if (parts.length === 0) return null
  return 'all' in filter ? { all: parts } : { any: parts }
}

export type FieldKind = 'text' | 'number' | 'choice' | 'instant'
export interface FieldDefinition {
  readonly name: string
  readonly label: string
  readonly kind: FieldKind
  readonly choices?: readonly string[]
}

/** The operators that make sense for a kind of field. */
export function operatorsFor(kind: FieldKind): readonly Operator[] {
  if (kind === 'number' || kind === 'instant') return ['is', 'is not', 'above', 'below', 'is empty', 'is not empty']
  if (kind === 'choice') return ['is', 'is not', 'is empty', 'is not empty']
  return ['contains', 'is', 'is not', 'is empty', 'is not empty']
}

/** The filter as words: `importance is High or Critical and owner is empty`. */
export function filterWords(filter: Filter, fields: readonly FieldDefinition[]): string {
  if ('field' in filter) {
    const label = fields.find(({ name }) => name === filter.field)?.label.toLowerCase() ?? filter.field
    return `${label} ${filter.op}${filter.values.length > 0 ? ` ${filter.values.length > 4 ? `one of ${filter.values.length}` : filter.values.join(' or ')}` : ''}`
  }
  const [parts, word] = 'all' in filter ? [filter.all, ' and '] : [filter.any, ' or ']
  return parts
    .map((part) => ('field' in part ? filterWords(part, fields) : `(${filterWords(part, fields)})`))
    .join(word)
}

export interface SortKey {
  readonly field: string
  readonly descending: boolean
}

/** `risk,-title` as sort keys. */
export const parseSort = (text: string | undefined): SortKey[] =>
  (text ?? '')
    .split(',')
    .filter((part) => part !== '')
    .map((part) => ({ field: part.replace(/^-/, ''), descending: part.startsWith('-') }))

/** Words and "quoted phrases" of a typed filter, lower case. */
export function searchWords(text: string): string[] {
  return Array.from(text.matchAll(/"([^"]*)"?|(\S+)/g), (match) =>
    (match[1] ?? match[2] ?? '').trim().toLowerCase(),
  ).filter((word) => word !== '')
}
