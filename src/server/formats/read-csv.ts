import { CsvError, parse } from 'csv-parse/sync'
import { guessWhat, type What } from '#core/formats/columns.ts'
import { readSheet, type SheetRead, type SheetRow } from '#core/formats/read-sheet.ts'
import { Refusal } from '#core/lib/refusal.ts'

export const mostCsvBytes = 50_000_000
const mostColumns = 500

export interface CsvRead extends SheetRead {
  readonly encoding: string
  readonly separator: string
}

/** Bytes of a CSV as requirements or cases. What cannot be read at all is refused with the place. */
export function readCsv(bytes: Buffer, wanted: What | null): CsvRead {
  const { text, encoding } = decode(bytes)
  const separator = separatorOf(text)
  const [header, ...rows] = sheetRows(text, separator)
  if (!header) throw new Refusal('invalid', 'The file is empty.')
  if (header.cells.length > mostColumns) throw new Refusal('too-large', `The header has ${header.cells.length} columns; at most ${mostColumns} are read.`)
  const what = wanted ?? guessWhat(header.cells)
  if (!what) throw new Refusal('invalid', `Row 1 is not a header that can be recognised (it reads ${header.cells.slice(0, 5).map((cell) => `“${cell.slice(0, 30)}”`).join(', ')}). Name the columns, at least “title”.`)
  return { ...readSheet(what, header, rows), encoding, separator }
}

/** UTF-16 by its mark, else UTF-8 where it is valid, else Windows-1252; bytes that are no text are refused. */
function decode(bytes: Buffer): { text: string; encoding: string } {
  if (bytes.length > mostCsvBytes) throw new Refusal('too-large', `The file has ${Math.round(bytes.length / 1e6)} MB; a CSV of at most ${mostCsvBytes / 1e6} MB is read. Split it.`)
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16' }
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16' }
  if (bytes.subarray(0, 4096).includes(0)) throw new Refusal('wrong-kind', 'This is not a text file (it holds zero bytes). Save it as CSV in UTF-8 and try again.')
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' }
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' }
  }
}

/** The separator that the header line has most of, outside quotes. */
function separatorOf(text: string): string {
  const header = (/^[^\r\n]*/.exec(text)?.[0] ?? '').replace(/"[^"]*"/g, '')
  const count = (separator: string) => header.split(separator).length - 1
  return [',', ';', '\t', '|'].reduce((best, each) => (count(each) > count(best) ? each : best))
}

function sheetRows(text: string, delimiter: string): SheetRow[] {
  try {
    const rows: SheetRow[] = []
    parse(text, {
      delimiter, bom: true, relax_column_count: true, skip_empty_lines: true, relax_quotes: false,
      // The parser counts the line a record ends on; a person looks for the one it starts on.
      on_record: (cells: string[], { lines }) => {
        rows.push({ line: lines - cells.reduce((sum, cell) => sum + (cell.split('\n').length - 1), 0), cells })
        return null
      },
    })
    return rows
  } catch (error) {
    if (!(error instanceof CsvError)) throw error
    throw new Refusal('invalid', `The file cannot be read as CSV: ${csvSentence(error)}`)
  }
}

function csvSentence(error: CsvError): string {
  const line = 'lines' in error ? ` at line ${String(error['lines'])}` : ''
  if (error.code === 'CSV_QUOTE_NOT_CLOSED') return `a quote that opens is never closed${line}.`
  if (error.code === 'INVALID_OPENING_QUOTE' || error.code === 'CSV_INVALID_CLOSING_QUOTE') return `a quote stands in the middle of a cell${line}; double it, or take it out.`
  return `${error.message.replace(/[^\x20-\x7e]/g, '').slice(0, 160)}.`
}
