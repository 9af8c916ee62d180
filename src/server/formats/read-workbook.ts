import { Readable } from 'node:stream'
import type excel from 'exceljs'
import { columnIndex, columnName } from '#core/formats/column-names.ts'
import type { Problem, Sheet, SheetRow } from '#core/formats/shapes.ts'
import { type Element, elements, readXml, textOf } from '#core/formats/xml.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { mostColumns } from './read-csv.ts'
import { readZip } from './zip.ts'

export interface WorkbookRead {
  readonly sheets: readonly Sheet[]
  readonly notices: readonly Problem[]
}

const mostCells = 5_000_000

interface Merge {
  readonly column: number
  readonly from: number
  readonly to: number
}

/** One sheet as the library reads it: its rows one after the other. */
type SheetReader = AsyncIterable<excel.Row>

/**
 * The library's streaming reader, used part by part; its types leave these out. Its own walk through the zip is not used: at a
 * bad moment it takes the end of the bytes for the end of the entries and loses the last sheets, and it decodes each chunk by
 * itself, so that a letter of several bytes on the edge of two is broken.
 */
interface PartsReader {
  readonly workbookRels?: readonly { readonly Id: string; readonly Target: string }[]
  readonly model?: { readonly sheets?: readonly { readonly name: string; readonly rId: string }[] }
  _parseRels(part: Readable): Promise<void>
  _parseWorkbook(part: Readable): Promise<void>
  _parseSharedStrings(part: Readable): AsyncGenerator<unknown>
  _parseStyles(part: Readable): Promise<void>
  _parseWorksheet(part: Readable, number: string): Iterable<{ readonly value: SheetReader }>
}

const neededPart =
  /^xl\/(_rels\/workbook\.xml\.rels|workbook\.xml|sharedStrings\.xml|styles\.xml|worksheets\/[^/]+\.xml)$/i

/**
 * The sheets of an Office Open XML workbook in the order of its tabs, cells as texts: a date as 2026-11-23, a formula as its
 * result, a cell merged over several rows in each of them. The zip is unpacked by ourselves, since its parts may be made to grow.
 * Source: ECMA-376, part 1, clause 18 (SpreadsheetML).
 */
export async function readXlsx(bytes: Buffer): Promise<WorkbookRead> {
  const parts = await readZip(bytes, (name) => neededPart.test(name))
  const sheets: Sheet[] = []
  const notices: Problem[] = []
  let cells = 0
  try {
    for (const { name, part, worksheet } of await worksheetsOf(parts)) {
      const { rows, formulas, count } = await rowsOf(worksheet, name, mostCells - cells)
      cells += count
      if (formulas > 0)
        notices.push({
          at: `sheet “${name}”`,
          message: `${formulas} ${formulas === 1 ? 'cell holds a formula; its last result is' : 'cells hold formulas; their last results are'} read`,
        })
      sheets.push({ name, rows: withMerges(rows, mergesOf(part)) })
    }
  } catch (error) {
    if (error instanceof Refusal) throw error
    throw new Refusal(
      'invalid',
      `The workbook is damaged and cannot be read (${error instanceof Error ? error.message.slice(0, 120) : 'unknown'}).`,
    )
  }
  if (sheets.length === 0) throw new Refusal('invalid', 'The workbook has no sheet that can be read.')
  return { sheets, notices }
}

/** Every sheet that the workbook names and holds, not yet read. */
async function worksheetsOf(parts: ReadonlyMap<string, Buffer>) {
  // Loaded on use: it is large, and most commands and pages read no workbook.
  const { default: library } = await import('exceljs')
  const reader = new library.stream.xlsx.WorkbookReader(Readable.from([]), {
    sharedStrings: 'cache',
    worksheets: 'emit',
    styles: 'cache',
    hyperlinks: 'ignore',
    entries: 'ignore',
  }) as unknown as PartsReader
  const part = (name: string) => Readable.from(lettersOf(parts.get(name) ?? Buffer.alloc(0)))
  await reader._parseRels(part('xl/_rels/workbook.xml.rels'))
  await reader._parseWorkbook(part('xl/workbook.xml'))
  // With the strings kept it gives nothing on the way, so its first step is its last.
  if (parts.has('xl/sharedStrings.xml')) await reader._parseSharedStrings(part('xl/sharedStrings.xml')).next()
  if (parts.has('xl/styles.xml')) await reader._parseStyles(part('xl/styles.xml'))
  const targets = new Map((reader.workbookRels ?? []).map(({ Id, Target }) => [Id, partName(Target)]))
  return (reader.model?.sheets ?? []).flatMap(({ name, rId }) => {
    const target = targets.get(rId)
    const bytes = target === undefined ? undefined : parts.get(target)
    // A sheet that is a chart or a macro has no part among the worksheets.
    if (target === undefined || !bytes) return []
    return Array.from(reader._parseWorksheet(part(target), name), ({ value }) => ({
      name,
      part: bytes,
      worksheet: value,
    }))
  })
}

/** A target of a relation as the name of a part: relations of the workbook start in its folder, or at the root. */
const partName = (target: string): string => (target.startsWith('/') ? target.slice(1) : `xl/${target}`)

const chunkBytes = 65_536

/** The text of a part in pieces that are cut only before an ASCII character, never within a letter. */
export function* lettersOf(part: Buffer, size = chunkBytes): Generator<string> {
  for (let at = 0; at < part.length;) {
    let end = Math.min(part.length, at + size)
    while (end < part.length && (part[end] ?? 0) > 0x7f) end++
    yield part.toString('utf8', at, end)
    at = end
  }
}

async function rowsOf(
  worksheet: SheetReader,
  name: string,
  left: number,
): Promise<{ rows: SheetRow[]; formulas: number; count: number }> {
  const rows: SheetRow[] = []
  let [formulas, count] = [0, 0]
  for await (const row of worksheet) {
    if (row.cellCount > mostColumns)
      throw new Refusal(
        'too-large',
        `Sheet “${name}”, row ${row.number}: has ${row.cellCount} columns; at most ${mostColumns} are read.`,
      )
    const texts: string[] = []
    row.eachCell({ includeEmpty: false }, (cell, column) => {
      while (texts.length < column - 1) texts.push('')
      if (cell.formula) formulas++
      texts[column - 1] = cellText(cell.value)
    })
    count += texts.length
    if (count > left)
      throw new Refusal('too-large', `The workbook has more than ${mostCells / 1e6} million cells; split it.`)
    rows.push({ line: row.number, cells: texts })
  }
  return { rows, formulas, count }
}

function cellText(value: excel.CellValue): string {
  if (value === null || value === undefined) return ''
  if (value instanceof Date) return dateText(value)
  if (typeof value !== 'object') return typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value)
  if ('richText' in value) return value.richText.map(({ text }) => text).join('')
  if ('formula' in value || 'sharedFormula' in value)
    return value.result === undefined || (typeof value.result === 'object' && 'error' in value.result)
      ? ''
      : cellText(value.result)
  if ('hyperlink' in value) return typeof value.text === 'string' ? value.text : cellText(value.text)
  return ''
}

/** A day, or a day with its time; spreadsheets know no zones. */
function dateText(date: Date): string {
  if (Number.isNaN(date.getTime())) return ''
  const [day = '', time = ''] = date.toISOString().split('T')
  return time.startsWith('00:00:00') ? day : `${day} ${time.slice(0, 5)}`
}

/** Ranges merged over several rows, of a sheet's part. */
function mergesOf(part: Buffer): Merge[] {
  const tail = part.lastIndexOf('<mergeCells')
  if (tail < 0) return []
  return Array.from(
    part
      .subarray(tail)
      .toString('utf8')
      .matchAll(/<mergeCell ref="([A-Z]{1,3})(\d{1,7}):[A-Z]{1,3}(\d{1,7})"/g),
    ([, column = 'A', from = '1', to = '1']) => ({ column: columnIndex(column), from: Number(from), to: Number(to) }),
  ).filter(({ from, to }) => to > from)
}

function withMerges(rows: readonly SheetRow[], merges: readonly Merge[]): SheetRow[] {
  if (merges.length === 0) return [...rows]
  const byLine = new Map(rows.map((row) => [row.line, [...row.cells]]))
  for (const { column, from, to } of merges) {
    const value = byLine.get(from)?.[column] ?? ''
    for (let line = from + 1; value !== '' && line <= to; line++) {
      const cells = byLine.get(line)
      if (!cells) continue
      while (cells.length < column) cells.push('')
      cells[column] = value
    }
  }
  return [...byLine].sort(([a], [b]) => a - b).map(([line, cells]) => ({ line, cells }))
}

/** The sheets of an OpenDocument spreadsheet, with the same rules. Source: OpenDocument 1.3, part 3, chapter 9. */
export async function readOds(bytes: Buffer): Promise<WorkbookRead> {
  const parts = await readZip(bytes, (name) => name === 'content.xml' || name === 'META-INF/manifest.xml')
  if (parts.get('META-INF/manifest.xml')?.includes('encryption-data'))
    throw new Refusal('invalid', 'The workbook is encrypted. Save it without a password and try again.')
  const content = parts.get('content.xml')
  if (!content) throw new Refusal('invalid', 'The workbook has no content.xml and cannot be read.')
  const spreadsheet = elements(readXml(content.toString('utf8')), 'body').flatMap((body) =>
    elements(body, 'spreadsheet'),
  )
  const sheets = spreadsheet.flatMap((each) => elements(each, 'table')).map((table) => sheetOf(table))
  if (sheets.length === 0) throw new Refusal('invalid', 'The workbook has no sheet that can be read.')
  return { sheets, notices: [] }
}

const repeats = (of: Element, name: string): number => Math.max(1, Number(of.attributes[name] ?? '1') || 1)

function sheetOf(table: Element): Sheet {
  const name = table.attributes['name'] ?? 'Sheet'
  const rows: SheetRow[] = []
  const merges: Merge[] = []
  let line = 0
  const all = elements(table).flatMap((each) =>
    each.name === 'table-row' ? [each] : /^table-(header-rows|row-group|rows)$/.test(each.name) ? rowsWithin(each) : [],
  )
  for (const row of all) {
    const cells = cellsOf(row, { name, line: line + 1, merges })
    const times = repeats(row, 'number-rows-repeated')
    // The empty rest of a sheet is one row repeated a million times.
    if (cells.length > 0 && (line + times > 1_048_576 || times * cells.length > mostCells))
      throw new Refusal(
        'too-large',
        `Sheet “${name}”, row ${line + 1}: is repeated ${times} times; that is more than is read.`,
      )
    for (let time = 0; cells.length > 0 && time < times; time++) rows.push({ line: line + time + 1, cells })
    line += times
  }
  return { name, rows: withMerges(rows, merges) }
}

const rowsWithin = (of: Element): Element[] =>
  elements(of).flatMap((each) => (each.name === 'table-row' ? [each] : rowsWithin(each)))

function cellsOf(row: Element, of: { name: string; line: number; merges: Merge[] }): string[] {
  const cells: string[] = []
  let empty = 0
  for (const cell of elements(row).filter(({ name }) => name === 'table-cell' || name === 'covered-table-cell')) {
    const text = cell.name === 'covered-table-cell' ? '' : odsText(cell)
    const times = repeats(cell, 'number-columns-repeated')
    if (text === '') {
      empty += times
      continue
    }
    if (cells.length + empty + times > mostColumns)
      throw new Refusal(
        'too-large',
        `Sheet “${of.name}”, row ${of.line}: has text in column ${columnName(cells.length + empty + times - 1)}; at most ${mostColumns} columns are read.`,
      )
    for (; empty > 0; empty--) cells.push('')
    const tall = repeats(cell, 'number-rows-spanned')
    if (tall > 1) of.merges.push({ column: cells.length, from: of.line, to: of.line + tall - 1 })
    for (let time = 0; time < times; time++) cells.push(text)
  }
  return cells
}

function odsText(cell: Element): string {
  const { attributes } = cell
  if (attributes['value-type'] === 'date')
    return (attributes['date-value'] ?? '')
      .replace(/T00:00:00.*$/, '')
      .replace('T', ' ')
      .slice(0, 16)
  if (attributes['value-type'] === 'boolean') return attributes['boolean-value'] === 'true' ? 'yes' : 'no'
  const paragraphs = elements(cell, 'p').map(paragraph)
  return paragraphs.length > 0 && attributes['value-type'] !== 'float'
    ? paragraphs.join('\n')
    : (attributes['value'] ?? paragraphs.join('\n'))
}

/** White space that counts is written as elements. */
const paragraph = (of: Element): string =>
  of.children
    .map((each) => {
      if (typeof each === 'string') return each.replace(/\s+/g, ' ')
      if (each.name === 's') return ' '.repeat(Math.min(1000, repeats(each, 'c')))
      if (each.name === 'tab') return '\t'
      if (each.name === 'line-break') return '\n'
      return each.name === 'annotation' ? '' : each.children.length > 0 ? paragraph(each) : textOf(each)
    })
    .join('')
