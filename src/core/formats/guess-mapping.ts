import { partsOf } from './cell-steps.ts'
import { columnName } from './column-names.ts'
import { fieldsOf, guessColumns, guessWhat, mapColumns, type What } from './columns.ts'
import { isWhole } from './contents.ts'
import type { Mapping } from './mapping.ts'
import { plainly } from './plain-word.ts'
import type { Sheet, SheetRow } from './shapes.ts'

/** What is wrong with a mapping by itself, in words: a field read twice, or one there is not; `null` for nothing. */
export function mappingProblem(mapping: Mapping, custom: readonly string[] | null): string | null {
  const known = new Set(fieldsOf(mapping.what))
  for (const { columns } of [mapping, ...Object.values(mapping.own ?? {})]) {
    const seen = new Map<string, string>()
    for (const [column, field] of Object.entries(columns)) {
      const before = seen.get(field)
      if (before) return `Columns ${before} and ${column} are both read as “${field}”; read one of them as it.`
      seen.set(field, column)
      const isOwn = field.startsWith('custom:') && (custom === null || custom.includes(field.slice('custom:'.length)))
      if (!known.has(field) && !isOwn)
        return `Column ${column} is read as “${field}”, which is no field of ${mapping.what}; the fields are ${[...known].join(', ')}.`
    }
  }
  return null
}

const filledIn = (row: SheetRow): number => row.cells.filter((cell) => cell.trim() !== '').length

/** How many of the first rows are looked at for headers, and of the rows of data for shape. */
const looked = 30
const lookedData = 400

export interface Guess {
  readonly mapping: Mapping
  /** Columns told by what stands in them, by their letters. */
  readonly byContents: readonly string[]
}

interface Head {
  /** Index of the last row of the headers. */
  readonly index: number
  readonly what: What
  readonly cells: readonly string[]
  readonly known: number
}

/**
 * A mapping guessed from headers and contents, or `null` when nothing is recognised: the header is the row of the first thirty
 * in which most columns are known by name (titles of the whole sheet and empty rows above it are passed over), or two rows, the upper
 * one over several columns of the lower.
 */
export function guessMapping(sheet: Sheet, wanted: What | null, custom: readonly string[] = []): Guess | null {
  const heads = sheet.rows.slice(0, looked).flatMap((row, index) => headsAt(sheet, index, row, wanted, custom))
  const best = heads.reduce<Head | null>((most, each) => (most === null || each.known > most.known ? each : most), null)
  const guessed = best ? guessBelow(sheet, best, custom) : null
  return guessed ?? guessByContents(sheet, wanted) ?? guessOutline(sheet, wanted)
}

/** A row as headers, alone and with the row below it. */
function headsAt(sheet: Sheet, index: number, row: SheetRow, wanted: What | null, custom: readonly string[]): Head[] {
  const below = sheet.rows[index + 1]
  const both = below && filledIn(row) > 1 && filledIn(below) > 0 ? overlaid(row.cells, below.cells) : null
  const head = (cells: readonly string[], at: number, handicap: number): Head[] => {
    const what = wanted ?? guessWhat(cells)
    const fields = what ? mapColumns(what, cells, custom) : []
    const known = fields.filter((field) => field !== null).length - handicap
    return what && fields.includes('title') ? [{ index: at, what, cells, known }] : []
  }
  // Two rows must tell clearly more than one does: the row below is far more often data.
  return [...head(row.cells, index, 0), ...(both ? head(both, index + 1, 1.5) : [])]
}

/** Two rows of headers as one; a header over several columns stands in the first of them. */
function overlaid(upper: readonly string[], lower: readonly string[]): string[] {
  let over = ''
  return Array.from({ length: Math.max(upper.length, lower.length) }, (_, index) => {
    const [top, own] = [(upper[index] ?? '').trim(), (lower[index] ?? '').trim()]
    if (top !== '') over = top
    return own === '' ? top : `${over}\n${own}`
  })
}

const dataBelow = (sheet: Sheet, index: number): SheetRow[] =>
  sheet.rows.slice(index + 1, index + 1 + lookedData).filter((row) => filledIn(row) > 0)
const trimmed = (rows: readonly SheetRow[]): string[][] => rows.map(({ cells }) => cells.map((cell) => cell.trim()))
const namedColumns = (fields: readonly (string | null)[]): Record<string, string> =>
  Object.fromEntries(fields.flatMap((field, index) => (field === null ? [] : [[columnName(index), field]])))

function guessBelow(sheet: Sheet, { index, what, cells }: Head, custom: readonly string[]): Guess | null {
  const header = sheet.rows[index]
  const data = dataBelow(sheet, index)
  const { fields, byContents } = guessColumns(what, cells, trimmed(data), custom)
  if (!header || !fields.includes('title')) return null
  const shape: Pick<Mapping, 'layout' | 'begins'> =
    what === 'cases' ? caseShape(data, fields) : { layout: 'a row a step', begins: 'title' }
  const mapping = {
    what,
    sheets: null,
    header: header.line,
    first: data[0]?.line ?? header.line + 1,
    columns: namedColumns(fields),
    ...shape,
  }
  return { mapping, byContents: byContents.map(columnName) }
}

/** With no header that is known: rows of cases are told by step numbers that begin again, with sentences beside them. */
function guessByContents(sheet: Sheet, wanted: What | null): Guess | null {
  if (wanted === 'requirements') return null
  const first = sheet.rows.findIndex((row) => filledIn(row) > 1)
  for (const header of [first, -1]) {
    const data = dataBelow(sheet, header)
    const [top] = data
    const { fields, byContents } = guessColumns('cases', [], trimmed(data))
    if (!top || !['number', 'title', 'action'].every((field) => fields.includes(field))) continue
    const mapping = {
      what: 'cases' as const,
      sheets: null,
      header: header < 0 ? null : (sheet.rows[header]?.line ?? null),
      first: top.line,
      columns: namedColumns(fields),
      ...caseShape(data, fields),
    }
    return { mapping, byContents: byContents.map(columnName) }
  }
  return null
}

/** A mapping to be filled in by a person: the widest of the first rows is taken for the headers, and those that are known are filled in. */
export function emptyMapping(sheet: Sheet, what: What): Mapping {
  const rows = sheet.rows.slice(0, looked)
  const widest = Math.max(0, ...rows.map(filledIn))
  const headers = rows.find((row) => filledIn(row) === widest)
  const header = headers?.line ?? 1
  return {
    what,
    sheets: null,
    header,
    first: rows.find(({ line }) => line > header)?.line ?? header + 1,
    columns: namedColumns(mapColumns(what, headers?.cells ?? [])),
    layout: 'a row a step',
    begins: 'title',
  }
}

/** What stands above each column, as far as it is told. */
export function headersOf(sheet: Sheet, header: number | null): Record<string, string> {
  const row = header === null ? undefined : sheet.rows.find(({ line }) => line === header)
  return Object.fromEntries(
    (row?.cells ?? []).flatMap((cell, index) =>
      cell.trim() === '' ? [] : [[columnName(index), cell.trim().slice(0, 80)]],
    ),
  )
}

/** Was the mapping made for a sheet with these headers? Every column it reads stands under the same one. */
export function fitsSheet(mapping: Mapping, sheet: Sheet): boolean {
  const made = mapping.headers ?? {}
  const here = headersOf(sheet, mapping.header)
  const columns = Object.keys(mapping.columns)
  return (
    Object.keys(made).length > 0 &&
    columns.length > 0 &&
    columns.every((column) => plainly(made[column] ?? '') === plainly(here[column] ?? ''))
  )
}

/** Which layout the rows of cases have, and by which column a case begins. */
function caseShape(data: readonly SheetRow[], fields: readonly (string | null)[]): Pick<Mapping, 'layout' | 'begins'> {
  const values = (field: string) => data.map((row) => (row.cells[fields.indexOf(field)] ?? '').trim())
  const actions = fields.includes('action') ? values('action').filter((text) => text !== '') : []
  const lists = actions.filter((text) => (partsOf(text)?.parts.length ?? 0) > 1).length
  if (lists > 0 && lists * 2 >= actions.length) return { layout: 'steps in one cell', begins: 'title' }
  const titles = values('title')
  const ids = fields.includes('id') ? values('id') : []
  const changesAt = (index: number) => index > 0 && ids[index] !== '' && ids[index] !== ids[index - 1]
  const changes = ids.filter((_, index) => changesAt(index)).length
  // An id that changes while the title stays is the number of a step, unless ids repeat or name cases, as TC-12 does.
  const within = ids.filter(
    (_, index) => changesAt(index) && titles[index] !== '' && titles[index] === titles[index - 1],
  ).length
  const given = ids.filter((id) => id !== '')
  const names = given.every((id) => !isWhole(id))
  return {
    layout: 'a row a step',
    begins: changes > 0 && (within === 0 || names || new Set(given).size < given.length) ? 'id' : 'title',
  }
}

/** How deep a row stands: its first filled cell, and the spaces or tabs before the text (two spaces or a tab a level). */
export function depthOf(row: SheetRow): number {
  const at = row.cells.findIndex((cell) => cell.trim() !== '')
  const lead = /^[ \t]*/.exec(row.cells[at] ?? '')?.[0] ?? ''
  return Math.max(0, at) + [...lead].reduce((sum, mark) => sum + (mark === '\t' ? 1 : 0.5), 0)
}

/** With no header: lines at several depths are an outline. */
function guessOutline(sheet: Sheet, wanted: What | null): Guess | null {
  const data = sheet.rows.filter((row) => filledIn(row) > 0)
  const depths = new Set(data.slice(0, 200).map(depthOf))
  const first = data[0]
  // A table with cells left empty is no outline: there, what stands at the top has more beside it.
  if (!first || depths.size < 2 || depthOf(first) !== 0 || data.some((row) => depthOf(row) === 0 && filledIn(row) > 1))
    return null
  const mapping: Mapping = {
    what: wanted ?? 'cases',
    sheets: null,
    header: null,
    first: first.line,
    columns: {},
    layout: 'an outline by indent',
    begins: 'title',
  }
  return { mapping, byContents: [] }
}
