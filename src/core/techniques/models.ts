import { z } from 'zod'
import { isRecord } from '#core/lib/record.ts'
import { bare } from '#core/lib/bare.ts'
import { Refusal } from '#core/lib/refusal.ts'

/** Something about a model that a person has to know, at the place it is about (a path such as `parameters.device[2]`). */
export interface Notice {
  readonly at: string
  readonly message: string
}

/** So long may a name or a value be. */
export const mostLetters = 120
const most = { names: 200, name: mostLetters, values: 10_000, rules: 2000 }
export const name = z
  .string()
  .trim()
  .min(1, 'a name may not be empty')
  .max(most.name, `a name has at most ${most.name} characters`)
/** Values may be written as numbers or truth values; they are kept as words. */
const value = z
  .union([z.string(), z.number(), z.boolean()])
  .transform((given) => String(given).trim())
  .pipe(name)
const few = z.union([value.transform((one) => [one]), z.array(value)])
/** `__proto__` is a name like any other here, and to a record it is none: it goes through under another that nobody can type. */
const [unsaid, said] = ['__proto__', '\u0000proto']
const renamed = (from: string, to: string) => (all: unknown) =>
  isRecord(all) && Object.hasOwn(all, from)
    ? bare(Object.fromEntries(Object.entries(all).map(([key, own]) => [key === from ? to : key, own])))
    : all
export const recordOf = <T extends z.ZodType>(key: z.ZodType<string, string>, of: T, atMost: number = most.names) =>
  z
    .preprocess(renamed(unsaid, said), z.record(key, of, 'is a list of names with what belongs to each: {"name": …}'))
    .refine((all) => Object.keys(all).length <= atMost, `at most ${atMost.toLocaleString('en-GB')} names`)
    .transform((all) => bare(renamed(said, unsaid)(all) as typeof all))
const named = <T extends z.ZodType>(of: T) => recordOf(name, of)

/** An object of exactly these parts; what is misspelt is named, with what there is. */
export const exactly = <T extends z.ZodRawShape>(shape: T) =>
  z.strictObject(shape, {
    error: (issue) =>
      issue.code === 'unrecognized_keys'
        ? `there is no “${issue.keys.join('”, “')}” here; the parts are ${Object.keys(shape).join(', ')}`
        : 'is an object with parts in braces',
  })

export const combosModel = exactly({
  parameters: named(z.array(value).max(most.values, `at most ${most.values.toLocaleString('en-GB')} values`)),
  strength: z
    .number()
    .int('a strength is a whole number')
    .min(1, 'a strength is 1 to 6')
    .max(6, 'a strength is 1 to 6')
    .default(2),
  stronger: z
    .array(exactly({ of: z.array(name).min(1), strength: z.number().int().min(1).max(6) }))
    .max(100)
    .default([]),
  negative: named(z.array(value)).prefault({}),
  constraints: z
    .array(
      z.union(
        [exactly({ if: named(few), then: named(few) }), exactly({ forbid: named(few) })],
        'a rule is {"if": …, "then": …} or {"forbid": …}',
      ),
    )
    .max(most.rules)
    .default([]),
  weights: named(named(z.number().nonnegative())).prefault({}),
})
export type CombosModel = z.infer<typeof combosModel>
export type CombosRule = CombosModel['constraints'][number]

export const existingRows = z.union([
  z.array(named(z.union([value, z.literal(''), z.null()]))),
  z.object({ rows: z.array(named(z.union([value, z.literal(''), z.null()]))) }).transform(({ rows }) => rows),
])

const boundaryValue = z.union([z.number(), z.string().trim().min(1)])
export const boundariesModel = exactly({
  inputs: named(
    exactly({
      type: z.enum(['integer', 'decimal', 'date', 'length', 'set'], 'a type is integer, decimal, date, length or set'),
      step: z.number().positive('a step is above 0').optional(),
      unit: z.string().max(40).optional(),
      partitions: z
        .array(
          exactly({
            name,
            from: boundaryValue.optional(),
            to: boundaryValue.optional(),
            values: z.array(value).optional(),
            valid: z.boolean().default(true),
          }),
        )
        .max(500),
    }),
  ),
  values: z.union([z.literal(2), z.literal(3)], 'values is 2 or 3').default(2),
})
export type BoundariesModel = z.infer<typeof boundariesModel>
export type BoundaryInput = BoundariesModel['inputs'][string]

const outcome = recordOf(z.string(), z.union([z.string(), z.number(), z.boolean(), z.null()]))
export const decisionsModel = exactly({
  conditions: named(z.array(value).min(1, 'a condition needs a value').max(most.values)),
  rules: z.array(exactly({ when: named(few).prefault({}), then: outcome.prefault({}) })).max(most.rules),
  impossible: z.array(named(few)).max(most.rules).default([]),
})
export type DecisionsModel = z.infer<typeof decisionsModel>
export type DecisionRule = DecisionsModel['rules'][number]

export const pathsModel = exactly({
  initial: name,
  final: z.array(name).optional(),
  transitions: z
    .array(
      exactly({
        from: name,
        event: z.string().trim().max(most.name).default(''),
        guard: z
          .string()
          .trim()
          .max(300)
          .nullish()
          .transform((guard) => guard ?? undefined),
        to: name,
      }),
    )
    .max(20_000),
})
export type PathsModel = z.infer<typeof pathsModel>
export type Transition = PathsModel['transitions'][number]
export const criteria = ['states', 'transitions', 'pairs'] as const
export type Criterion = (typeof criteria)[number]

/** Which techniques there are, in the order they are offered. */
export const techniques = ['boundaries', 'combos', 'decisions', 'paths'] as const
export type Technique = (typeof techniques)[number]

/** A path into JSON as people write it: `constraints[2].if.device`. */
const jsonPath = (path: readonly PropertyKey[]): string =>
  path.reduce<string>(
    (text, part) =>
      typeof part === 'number' ? `${text}[${part}]` : text === '' ? String(part) : `${text}.${String(part)}`,
    '',
  )

/**
 * The first key that an object of valid JSON has twice, as a path; `null` when there is none. A parser keeps the last one in
 * silence, which would lose what a person wrote.
 */
export function doubledKey(json: string): string | null {
  const stack: { readonly keys: Set<string> | null; part: string | number }[] = []
  const tokens = [...json.matchAll(/"(?:\\.|[^"\\])*"|[{}[\],:]/g)].map(([token]) => token)
  for (const [at, token] of tokens.entries()) {
    const top = stack.at(-1)
    if (token === '{') stack.push({ keys: new Set(), part: '' })
    else if (token === '[') stack.push({ keys: null, part: 0 })
    else if (token === '}' || token === ']') stack.pop()
    else if (token === ',' && typeof top?.part === 'number') top.part++
    else if (tokens[at + 1] === ':' && top?.keys && token !== ',' && token !== ':') {
      top.part = String(JSON.parse(token))
      if (top.keys.has(top.part)) return jsonPath(stack.map(({ part }) => part))
      top.keys.add(top.part)
    }
  }
  return null
}

/** What the parser stumbled over, on one line. */
const parserWords = (error: unknown): string =>
  error instanceof Error ? error.message.replace(/\s+/g, ' ').replace(/ ?is not valid JSON$/, '') : 'it cannot be read'

/** Reads a model from the text of a JSON file; every problem names its place. */
export function readModel<T extends z.ZodType>(shape: T, json: string): z.output<T> {
  let data: unknown
  try {
    data = JSON.parse(json)
  } catch (error) {
    throw new Refusal('invalid', `This is no JSON: ${parserWords(error)}.`)
  }
  const twice = doubledKey(json)
  if (twice !== null)
    throw new Refusal('invalid', `${twice}: this name stands twice; give one of them another name.`, {
      fields: [{ field: twice, message: 'stands twice' }],
    })
  return checkModel(shape, data)
}

const kinds: Readonly<Record<string, string>> = {
  array: 'a list in brackets',
  object: 'an object with parts in braces',
  record: 'a list of names with what belongs to each: {"name": …}',
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
}

/** What is wrong in the words of people; where a shape says it by itself, as it says it. */
function wordsOf(issue: z.core.$ZodIssue, data: unknown): string {
  if (issue.code !== 'invalid_type' || !issue.message.startsWith('Invalid input')) return issue.message
  const given = issue.path.reduce<unknown>(
    (at, part) => (isRecord(at) || Array.isArray(at) ? Reflect.get(at, part) : undefined),
    data,
  )
  return given === undefined ? 'is missing' : `must be ${kinds[issue.expected] ?? issue.expected}`
}

/** The same for data that is read already. */
export function checkModel<T extends z.ZodType>(shape: T, data: unknown): z.output<T> {
  const parsed = shape.safeParse(data)
  if (parsed.success) return parsed.data
  const fields = parsed.error.issues.map((issue) => ({
    field: jsonPath(issue.path) || 'the top',
    message: wordsOf(issue, data),
  }))
  throw new Refusal('invalid', `The model is not as it should be. ${fields[0]!.field}: ${fields[0]!.message}.`, {
    fields,
  })
}
