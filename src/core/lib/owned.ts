import { z } from 'zod'

/**
 * What an id in a request can stand for, with the word people know it by. Every one belongs to one project; that it is the
 * project in the address is checked once, for all endpoints, from the schemas that say `idOf`.
 */
export const owned = {
  attachment: 'file',
  attempt: 'attempt',
  build: 'build',
  case_template: 'template',
  case_version: 'version',
  checklist_item: 'checklist entry',
  custom_field: 'field',
  data_table: 'data table',
  data_table_row: 'data row',
  draft_model: 'model',
  draft_row: 'row of a model',
  environment: 'environment',
  folder: 'folder',
  import_act: 'import',
  import_mapping: 'mapping',
  item: 'item',
  iteration: 'iteration',
  link: 'link',
  notice: 'notice',
  plan: 'plan',
  release: 'release',
  requirement: 'requirement',
  routine: 'routine',
  routine_version: 'version of a routine',
  saved_view: 'view',
  standing_import: 'standing import',
  step: 'step',
  suggestion: 'suggestion',
  suite: 'suite',
  test_case: 'case',
  defect: 'defect',
} as const
export type Owned = keyof typeof owned
type OwnedOrPerson = Owned | 'person'

const mark = 'x-owned'

/** The id of an object of the project in the address. */
export const idOf = (of: Owned) =>
  z
    .number()
    .int()
    .positive()
    .meta({ [mark]: of })
/** Chosen objects; more than `most` are refused in words. */
export const idsOf = (of: Owned, most: number) => chosen(idOf(of), most)
export const chosen = <T extends z.ZodType>(each: T, most: number) =>
  z
    .array(each)
    .min(1, 'nothing is chosen')
    .max(most, `are more than ${most.toLocaleString('en-GB')}; choose fewer at a time`)
/** An id as part of a path. */
export const idInPath = (of: Owned) =>
  z.coerce
    .number()
    .int()
    .positive()
    .meta({ [mark]: of })
/** One of the people of the project. */
export const memberId = z
  .string()
  .max(60)
  .meta({ [mark]: 'person' })

export interface NamedId {
  readonly of: OwnedOrPerson
  readonly id: string | number
  /** Where it stands, such as `targets.0.release`. */
  readonly at: string
}

/** The ids that stand in `value`, which `schema` has accepted, each with what it is the id of. */
export function idsIn(schema: z.core.$ZodType, value: unknown, at = ''): readonly NamedId[] {
  if (value === null || value === undefined || !hasIds(schema)) return []
  const of = markOf(schema)
  if (of !== undefined) return [{ of, id: of === 'person' ? String(value) : Number(value), at }]
  if (schema instanceof z.ZodUnion)
    return schema.options
      .filter((option) => z.safeParse(option, value).success)
      .slice(0, 1)
      .flatMap((option) => idsIn(option, value, at))
  const under = (name: string | number) => (at === '' ? String(name) : `${at}.${name}`)
  const entries: [string, unknown][] = typeof value === 'object' ? Object.entries(value) : []
  const named = new Map(entries)
  return partsOf(schema).flatMap(({ each, inner, name }) => {
    if (each === 'same') return idsIn(inner, value, at)
    if (each === 'named') return idsIn(inner, named.get(name), under(name))
    return entries.flatMap(([key, part]) => idsIn(inner, part, under(key)))
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

const known = new WeakMap<z.core.$ZodType, boolean>()

/** Whether ids can stand anywhere in it: most of a large body cannot hold any, and is not walked. */
function hasIds(schema: z.core.$ZodType): boolean {
  const before = known.get(schema)
  if (before !== undefined) return before
  // A schema that contains itself is met again while it is looked through.
  known.set(schema, false)
  const has = markOf(schema) !== undefined || partsOf(schema).some(({ inner }) => hasIds(inner))
  known.set(schema, has)
  return has
}

function markOf(schema: z.core.$ZodType): OwnedOrPerson | undefined {
  const said = z.globalRegistry.get(schema)?.[mark]
  return said === 'person' || (typeof said === 'string' && said in owned) ? (said as OwnedOrPerson) : undefined
}
