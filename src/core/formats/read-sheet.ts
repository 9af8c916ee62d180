import type { Reader } from './cells.ts'
import { columnName } from './column-names.ts'
import type { What } from './columns.ts'
import { fieldsByColumn, type Mapping, mappingOf, type SheetMapping } from './mapping.ts'
import { readCases } from './read-cases.ts'
import { readOutline } from './read-outline.ts'
import { readRequirements } from './read-requirements.ts'
import { type FileRead, nothingRead, type Problem, type Sheet, type SheetRow, type UnreadColumn } from './shapes.ts'

/** Reads the rows of a sheet as requirements or as cases. Problems name their cell; nothing is guessed over them. */
export function readSheet(mapping: Mapping, sheet: Sheet): FileRead {
  const own = mappingOf(mapping, sheet.name)
  const fields = fieldsByColumn(own)
  const reader: Reader = {
    at: new Map(fields.flatMap((field, index) => (field === null ? [] : [[field, index] as const]))),
    words: mapping.words,
    problems: [],
    notices: [],
    unknown: new Map(),
  }
  const rows = sheet.rows.filter(({ line, cells }) => line >= own.first && cells.some((each) => each.trim() !== ''))
  const read = rowsRead(reader, mapping.what, own, sheet, rows)
  return {
    ...nothingRead,
    fields: [...reader.at.keys()].filter((field) => field !== 'number'),
    unread: own.layout === 'an outline by indent' ? [] : unreadColumns(fields, own, sheet, rows),
    ...read,
    problems: [...reader.problems, ...(read.problems ?? [])],
    notices: reader.notices,
    unknown: [...reader.unknown.values()],
  }
}

function rowsRead(
  reader: Reader,
  what: What,
  own: SheetMapping,
  sheet: Sheet,
  rows: readonly SheetRow[],
): Partial<FileRead> {
  if (own.layout === 'an outline by indent')
    return {
      ...readOutline(reader, what, rows),
      fields: what === 'cases' ? ['title', 'folder', 'action', 'expected', 'data'] : ['title', 'parent'],
    }
  if (!reader.at.has('title')) return { problems: [noTitle(sheet, own)], unread: [] }
  return what === 'requirements'
    ? { requirements: readRequirements(reader, rows) }
    : { cases: readCases(reader, own, rows) }
}

function noTitle(sheet: Sheet, { header, first }: SheetMapping): Problem {
  const headers = sheet.rows.find(({ line }) => line === header)?.cells ?? []
  const shown = headers.slice(0, 8).map((each) => `“${each.slice(0, 40)}”`)
  return {
    at: `row ${header ?? first}`,
    message: `no column is read as the title; the headers are ${shown.join(', ')}`,
  }
}

/** So many values of a column that is not read are shown. */
const mostValues = 3

/** Columns that hold something and are not read: nobody should find out later that they were left out. */
function unreadColumns(
  fields: readonly (string | null)[],
  { header }: SheetMapping,
  sheet: Sheet,
  rows: readonly SheetRow[],
): UnreadColumn[] {
  const width = rows.reduce((most, { cells }) => Math.max(most, cells.length), 0)
  const headers = header === null ? [] : (sheet.rows.find(({ line }) => line === header)?.cells ?? [])
  return Array.from({ length: width }, (_, column) => column)
    .filter((column) => (fields[column] ?? null) === null)
    .flatMap((column) => {
      const filled = rows.filter(({ cells }) => (cells[column] ?? '').trim() !== '')
      const values = [...new Set(filled.slice(0, 200).map(({ cells }) => (cells[column] ?? '').trim().slice(0, 60)))]
      return filled.length === 0
        ? []
        : [
            {
              sheet: sheet.name,
              column: columnName(column),
              header: (headers[column] ?? '').trim().slice(0, 80),
              cells: filled.length,
              values: values.slice(0, mostValues),
            },
          ]
    })
}

/** Rows that have not as many cells as the header: in a file of separated values something is quoted wrongly there. */
export function raggedRows(mapping: Mapping, sheet: Sheet): Problem[] {
  const { header, first } = mappingOf(mapping, sheet.name)
  const width = sheet.rows.find(({ line }) => line === header)?.cells.length
  if (width === undefined) return []
  return sheet.rows
    .filter(({ line, cells }) => line >= first && cells.length !== width)
    .map(({ line, cells }) => ({
      at: `row ${line}`,
      message: `has ${cells.length} cells where the header has ${width}`,
    }))
}
