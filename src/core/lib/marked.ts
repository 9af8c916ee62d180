import { z } from 'zod'

// A schema can say more of a value than its shape: that a number is an id, that a text is rich. It does so by a mark in its
// description, which the API's own description shows too. Here the places of a value are found that bear a mark.

export interface Marked {
  /** What the mark says. */
  readonly said: string
  readonly value: unknown
  readonly path: readonly string[]
}

/** The places of `value`, which `schema` has accepted, that bear `mark`. */
export function markedIn(
  schema: z.core.$ZodType,
  value: unknown,
  mark: string,
  path: readonly string[] = [],
): readonly Marked[] {
  if (value === null || value === undefined || !canBear(schema, mark)) return []
  const said = saidBy(schema, mark)
  if (said !== undefined) return [{ said, value, path }]
  if (schema instanceof z.ZodUnion) {
    const taken = schema.options.find((option) => z.safeParse(option, value).success)
    return taken ? markedIn(taken, value, mark, path) : []
  }
  const entries: [string, unknown][] = typeof value === 'object' ? Object.entries(value) : []
  const named = new Map(entries)
  return partsOf(schema).flatMap(({ each, inner, name }) => {
    if (each === 'same') return markedIn(inner, value, mark, path)
    if (each === 'named') return markedIn(inner, named.get(name), mark, [...path, name])
    return entries.flatMap(([key, part]) => markedIn(inner, part, mark, [...path, key]))
  })
}

interface Part {
  /** The value itself, one of its fields, or each of its entries is what `inner` describes. */
  readonly each: 'same' | 'named' | 'entry'
  readonly inner: z.core.$ZodType
  readonly name: string
}

function partsOf(schema: z.core.$ZodType): Part[] {
  const same = (inner: z.core.$ZodType): Part[] => [{ each: 'same', inner, name: '' }]
  if (schema instanceof z.ZodObject)
    return Object.entries<z.core.$ZodType>(schema.shape).map(([name, inner]) => ({ each: 'named', inner, name }))
  if (schema instanceof z.ZodArray) return [{ each: 'entry', inner: schema.element, name: '' }]
  if (schema instanceof z.ZodRecord) return [{ each: 'entry', inner: schema.valueType, name: '' }]
  if (schema instanceof z.ZodTuple)
    return schema.def.items.map((inner, index) => ({ each: 'named', inner, name: String(index) }))
  if (schema instanceof z.ZodPipe) return same(schema.in)
  if (schema instanceof z.ZodUnion) return schema.options.flatMap(same)
  if (
    schema instanceof z.ZodOptional ||
    schema instanceof z.ZodNullable ||
    schema instanceof z.ZodDefault ||
    schema instanceof z.ZodPrefault ||
    schema instanceof z.ZodReadonly ||
    schema instanceof z.ZodCatch
  )
    return same(schema.def.innerType)
  return []
}

const known = new Map<string, WeakMap<z.core.$ZodType, boolean>>()

/** Whether the mark can stand anywhere in it: most of a large body cannot bear any, and is not walked. */
function canBear(schema: z.core.$ZodType, mark: string): boolean {
  const found = known.get(mark) ?? new WeakMap<z.core.$ZodType, boolean>()
  known.set(mark, found)
  const before = found.get(schema)
  if (before !== undefined) return before
  // A schema that contains itself is met again while it is looked through.
  found.set(schema, false)
  const can = saidBy(schema, mark) !== undefined || partsOf(schema).some(({ inner }) => canBear(inner, mark))
  found.set(schema, can)
  return can
}

function saidBy(schema: z.core.$ZodType, mark: string): string | undefined {
  const said = z.globalRegistry.get(schema)?.[mark]
  return typeof said === 'string' ? said : undefined
}
