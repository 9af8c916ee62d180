import { z } from 'zod'
import { columnIndex } from './column-names.ts'
import { encodings } from './encodings.ts'

export const layouts = ['a row a step', 'steps in one cell', 'an outline by indent'] as const

const letters = z.string().regex(/^[A-Z]{1,3}$/, 'a column is named by letters, such as C')
/**
 * How the cells of one sheet become objects. `header` is the row of the headers and `first` the first row of data, counted
 * from 1 as a spreadsheet shows them; a header of `null` means there is none. Columns not named are not read.
 */
const sheetMapping = z.object({
  header: z.number().int().min(1).max(1_048_576).nullable(),
  first: z.number().int().min(1).max(1_048_576),
  columns: z.record(letters, z.string().max(120)),
  layout: z.enum(layouts).default('a row a step'),
  /** With a row a step: a new case begins where this changes. */
  begins: z.enum(['title', 'id']).default('title'),
})
export type SheetMapping = z.output<typeof sheetMapping>

export const mappingShape = sheetMapping.extend({
  what: z.enum(['requirements', 'cases']),
  sheets: z.array(z.string().max(200)).max(100).nullable().default(null),
  /** Sheets that are read otherwise, by their names. */
  own: z.record(z.string().max(200), sheetMapping).optional(),
  /** What words stand for where a field has fixed values: field → word → value. */
  words: z.record(z.string().max(120), z.record(z.string().max(60), z.string().max(60))).optional(),
  /** What stands above the columns in the file it was made for: by this it is found again for another one. */
  headers: z.record(letters, z.string().max(200)).optional(),
  /** What the bytes of a text file are read as; left out: as its letters suggest. */
  encoding: z.enum(encodings).nullish(),
})
export type Mapping = z.output<typeof mappingShape>

/** Of a mapping only what is about one sheet. */
export const sheetPart = ({ header, first, columns, layout, begins }: SheetMapping): SheetMapping => ({
  header,
  first,
  columns,
  layout,
  begins,
})
/** Are two sheets read the same way? */
export const readAlike = (one: SheetMapping, other: SheetMapping): boolean =>
  JSON.stringify(sheetPart(one)) === JSON.stringify(sheetPart(other))

/** How a sheet is read by a mapping. */
export const mappingOf = (mapping: Mapping, sheet: string): SheetMapping => mapping.own?.[sheet] ?? mapping

/**
 * The mapping with one sheet of several read otherwise, and with it those that were read alike: what is mended once for twelve sheets of
 * one kind is mended for all. `sheets`: the names of those that are read.
 */
export function changeSheet(
  mapping: Mapping,
  sheets: readonly string[],
  sheet: string,
  to: Partial<SheetMapping>,
): Mapping {
  const before = mappingOf(mapping, sheet)
  const after = { ...sheetPart(before), ...to }
  const alike = sheets.filter((name) => name === sheet || readAlike(mappingOf(mapping, name), before))
  const { own = {}, ...rest } = mapping
  const others = Object.fromEntries(Object.entries(own).filter(([name]) => !alike.includes(name)))
  if (sheets.every((name) => alike.includes(name))) return { ...rest, ...after }
  return { ...mapping, own: { ...others, ...Object.fromEntries(alike.map((name) => [name, after])) } }
}

/** The field of each column, by its index from 0. */
export function fieldsByColumn(mapping: Pick<Mapping, 'columns'>): (string | null)[] {
  const entries = Object.entries(mapping.columns).map(([name, field]) => [columnIndex(name), field] as const)
  const fields = Array.from<string | null>({ length: Math.max(0, ...entries.map(([index]) => index + 1)) }).fill(null)
  for (const [index, field] of entries) fields[index] = field
  return fields
}
