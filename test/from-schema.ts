import fc from 'fast-check'

/** As much of JSON Schema as the API's description uses. */
export interface Schema {
  readonly type?: string | readonly string[]
  readonly enum?: readonly unknown[]
  readonly const?: unknown
  readonly anyOf?: readonly Schema[]
  readonly oneOf?: readonly Schema[]
  readonly allOf?: readonly Schema[]
  readonly properties?: Readonly<Record<string, Schema>>
  readonly required?: readonly string[]
  readonly additionalProperties?: Schema | boolean
  readonly items?: Schema | boolean
  readonly prefixItems?: readonly Schema[]
  readonly minItems?: number
  readonly maxItems?: number
  readonly minimum?: number
  readonly maximum?: number
  readonly exclusiveMinimum?: number
  readonly minLength?: number
  readonly maxLength?: number
  readonly pattern?: string
  readonly format?: string
}

/** Texts that have broken programs: signs of formats, empty, long, other scripts, names every object has. */
const text = fc.oneof(
  { weight: 4, arbitrary: fc.string({ maxLength: 12 }) },
  {
    weight: 2,
    arbitrary: fc.constantFrom(
      '',
      ' ',
      'constructor',
      '__proto__',
      '%',
      '_',
      "'",
      '"',
      '\\',
      '\u0000',
      '\ud800',
      '<b>x</b>',
      '{x}',
      '=1+1',
      '{"all":[]}',
      'TC-1',
      'RQ-4',
      '-1',
      '1e9',
      'x'.repeat(400),
      'Ærø – 舟',
      '2026-11-23',
      '2.4',
      'any',
    ),
  },
)

/** Small numbers meet things that are there; the others meet nothing, or what numbers can break. */
const number = ({ minimum = 0, maximum = Number.MAX_SAFE_INTEGER, exclusiveMinimum }: Schema) => {
  const [least, most] = [
    Math.ceil(Math.max(minimum, exclusiveMinimum === undefined ? minimum : exclusiveMinimum + 1)),
    Math.floor(maximum),
  ]
  if (most < least) return fc.double({ min: minimum, max: maximum, noNaN: true })
  return fc.oneof(
    { weight: 6, arbitrary: fc.integer({ min: least, max: Math.min(most, least + 60) }) },
    { weight: 1, arbitrary: fc.constantFrom(least, most) },
  )
}

function object(
  { properties = {}, required = [], additionalProperties }: Schema,
  depth: number,
): fc.Arbitrary<unknown> {
  const known = Object.fromEntries(Object.entries(properties).map(([name, of]) => [name, fromSchema(of, depth + 1)]))
  const own = fc.record(known, { requiredKeys: required.filter((name) => name in known) })
  if (typeof additionalProperties !== 'object' || depth > 4) return own
  return fc
    .tuple(own, fc.dictionary(fc.string({ maxLength: 6 }), fromSchema(additionalProperties, depth + 1), { maxKeys: 3 }))
    .map(([a, b]) => ({ ...b, ...a }))
}

/** A text of a pattern; a key such as TC-12 mostly of something that is there. */
function patterned(pattern: string): fc.Arbitrary<string> {
  const prefix = /^\^([A-Z]{2})-/.exec(pattern)?.[1]
  const made = prefix
    ? fc.integer({ min: 1, max: 60 }).map((n) => `${prefix}-${n}`)
    : fc.stringMatching(new RegExp(pattern)).map((each) => each.slice(0, 40))
  return fc.oneof({ weight: 12, arbitrary: made }, { weight: 1, arbitrary: text })
}

/** Values that a schema allows. */
export function fromSchema(schema: Schema, depth = 0): fc.Arbitrary<unknown> {
  if (schema.const !== undefined) return fc.constant(schema.const)
  if (schema.enum) return fc.constantFrom(...schema.enum)
  const choices = schema.anyOf ?? schema.oneOf
  if (choices) return fc.oneof(...choices.map((each) => fromSchema(each, depth + 1)))
  if (schema.allOf)
    return fc
      .tuple(...schema.allOf.map((each) => fromSchema(each, depth + 1)))
      .map((parts) => Object.assign({}, ...parts))
  if (Array.isArray(schema.type))
    return fc.oneof(...schema.type.map((type: string) => fromSchema({ ...schema, type }, depth)))
  switch (schema.type) {
    case 'string':
      return schema.pattern
        ? patterned(schema.pattern)
        : text.map((made) => made.slice(0, schema.maxLength ?? 500).padEnd(schema.minLength ?? 0, 'x'))
    case 'integer':
      return number(schema)
    case 'number':
      return fc.oneof(
        number(schema),
        fc.double({ noNaN: true, noDefaultInfinity: true, min: schema.minimum ?? -1e6, max: schema.maximum ?? 1e6 }),
      )
    case 'boolean':
      return fc.boolean()
    case 'null':
      return fc.constant(null)
    case 'array': {
      if (schema.prefixItems) return fc.tuple(...schema.prefixItems.map((each) => fromSchema(each, depth + 1)))
      const least = schema.minItems ?? 0
      return fc.array(
        typeof schema.items === 'object' ? fromSchema(schema.items, depth + 1) : fc.jsonValue({ maxDepth: 1 }),
        { minLength: least, maxLength: Math.min(schema.maxItems ?? 4, Math.max(least, 4)) },
      )
    }
    case 'object':
      return object(schema, depth)
    default:
      return fc.jsonValue({ maxDepth: 2 })
  }
}
