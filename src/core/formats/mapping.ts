import { z } from 'zod'
import { encodings } from './encodings.ts'
import { columnIndex, columnName, guessWhat, mapColumns, type What } from './columns.ts'
import type { Sheet, SheetRow } from './shapes.ts'

export const layouts = ['a row a step', 'steps in one cell', 'an outline by indent'] as const

/**
 * How the cells of a sheet become objects. `header` is the row of the headers and `first` the first row of data, counted
 * from 1 as a spreadsheet shows them; a header of `null` means there is none. Columns not named are not read.
 */
export const mappingShape = z.object({
  what: z.enum(['requirements', 'cases']),
  sheets: z.array(z.string().max(200)).max(100).nullable().default(null),
  header: z.number().int().min(1).max(1_048_576).nullable(),
  first: z.number().int().min(1).max(1_048_576),
  columns: z.record(z.string().regex(/^[A-Z]{1,3}$/, 'a column is named by letters, such as C'), z.string().max(120)),
  layout: z.enum(layouts).default('a row a step'),
  /** With a row a step: a new case begins where this changes. */
  begins: z.enum(['title', 'id']).default('title'),
  /** What the bytes of a text file are read as; left out: as its letters suggest. */
  encoding: z.enum(encodings).nullish(),
})
export type Mapping = z.output<typeof mappingShape>

/** The field of each column, by its index from 0. */
export function fieldsByColumn(mapping: Mapping): (string | null)[] {
  const entries = Object.entries(mapping.columns).map(([name, field]) => [columnIndex(name), field] as const)
  const fields = Array.from<string | null>({ length: Math.max(0, ...entries.map(([index]) => index + 1)) }).fill(null)
  for (const [index, field] of entries) fields[index] = field
  return fields
}

const filledIn = (row: SheetRow): number => row.cells.filter((cell) => cell.trim() !== '').length

/** How many of the first rows are looked at for headers and for shape. */
const looked = 30

/**
 * A mapping guessed from headers and shape, or `null` when nothing is recognised: the header is the row of the first thirty
 * in which most columns are known by name (titles of the whole sheet and empty rows above it are passed over).
 */
export function guessMapping(sheet: Sheet, wanted: What | null, custom: readonly string[] = []): Mapping | null {
  const rows = sheet.rows.slice(0, looked)
  const scored = rows.flatMap((row, index) => {
    const what = wanted ?? guessWhat(row.cells)
    const fields = what ? mapColumns(what, row.cells, custom) : []
    return what && fields.includes('title')
      ? [{ index, what, fields, known: fields.filter((field) => field !== null).length }]
      : []
  })
  const best = scored.reduce<(typeof scored)[number] | null>(
    (most, each) => (most === null || each.known > most.known ? each : most),
    null,
  )
  if (!best) return guessOutline(sheet, wanted)
  const header = rows[best.index]
  const first = sheet.rows.slice(best.index + 1).find((row) => filledIn(row) > 0)
  if (!header) return null
  const columns = Object.fromEntries(
    best.fields.flatMap((field, index) => (field === null ? [] : [[columnName(index), field]])),
  )
  const base = { what: best.what, sheets: null, header: header.line, first: first?.line ?? header.line + 1, columns }
  if (best.what === 'requirements') return { ...base, layout: 'a row a step', begins: 'title' }
  const data = sheet.rows.slice(best.index + 1).filter((row) => filledIn(row) > 0)
  return { ...base, ...caseShape(data, best.fields) }
}

/** A mapping to be filled in by a person: the widest of the first rows is taken for the headers, and those that are known are filled in. */
export function emptyMapping(sheet: Sheet, what: What): Mapping {
  const rows = sheet.rows.slice(0, looked)
  const widest = Math.max(0, ...rows.map(filledIn))
  const headers = rows.find((row) => filledIn(row) === widest)
  const header = headers?.line ?? 1
  const columns = Object.fromEntries(
    mapColumns(what, headers?.cells ?? []).flatMap((field, index) =>
      field === null ? [] : [[columnName(index), field]],
    ),
  )
  return {
    what,
    sheets: null,
    header,
    first: rows.find(({ line }) => line > header)?.line ?? header + 1,
    columns,
    layout: 'a row a step',
    begins: 'title',
  }
}

/** Which layout the rows of cases have, and by which column a case begins. */
function caseShape(data: readonly SheetRow[], fields: readonly (string | null)[]): Pick<Mapping, 'layout' | 'begins'> {
  const values = (field: string) => data.map((row) => (row.cells[fields.indexOf(field)] ?? '').trim())
  const titles = values('title')
  const ids = fields.includes('id') ? values('id') : []
  const many = values('action').filter((text) => numberedLines(text).length > 1).length
  if (many > 0 && many * 2 >= values('action').filter((text) => text !== '').length)
    return { layout: 'steps in one cell', begins: 'title' }
  // An id that changes while the title stays is the number of a step, unless ids repeat.
  const changes = ids.filter((id, index) => index > 0 && id !== '' && id !== ids[index - 1]).length
  const withinTitle = ids.filter(
    (id, index) =>
      index > 0 && id !== '' && id !== ids[index - 1] && titles[index] !== '' && titles[index] === titles[index - 1],
  ).length
  const given = ids.filter((id) => id !== '')
  return {
    layout: 'a row a step',
    begins: changes > 0 && (withinTitle === 0 || new Set(given).size < given.length) ? 'id' : 'title',
  }
}

/** The items of a numbered list written as lines of one cell; empty when the text is no such list. */
export function numberedLines(text: string): string[] {
  const items: string[] = []
  for (const line of text.split(/\r?\n/)) {
    const marked = /^\s*(?:step\s*)?(\d{1,3})\s*[.):-]\s*(.*)$/i.exec(line)
    if (marked && Number(marked[1]) === items.length + 1) items.push(marked[2] ?? '')
    else if (items.length > 0) items[items.length - 1] = `${items.at(-1) ?? ''}\n${line}`
    else if (line.trim() !== '') return []
  }
  return items.map((item) => item.trim())
}

/** How deep a row stands: its first filled cell, and the spaces or tabs before the text (two spaces or a tab a level). */
export function depthOf(row: SheetRow): number {
  const at = row.cells.findIndex((cell) => cell.trim() !== '')
  const lead = /^[ \t]*/.exec(row.cells[at] ?? '')?.[0] ?? ''
  return Math.max(0, at) + [...lead].reduce((sum, mark) => sum + (mark === '\t' ? 1 : 0.5), 0)
}

/** With no header: lines at several depths are an outline. */
function guessOutline(sheet: Sheet, wanted: What | null): Mapping | null {
  const data = sheet.rows.filter((row) => filledIn(row) > 0)
  const depths = new Set(data.slice(0, 200).map(depthOf))
  const first = data[0]
  // A table with cells left empty is no outline: there, what stands at the top has more beside it.
  if (!first || depths.size < 2 || depthOf(first) !== 0 || data.some((row) => depthOf(row) === 0 && filledIn(row) > 1))
    return null
  return {
    what: wanted ?? 'cases',
    sheets: null,
    header: null,
    first: first.line,
    columns: {},
    layout: 'an outline by indent',
    begins: 'title',
  }
}
