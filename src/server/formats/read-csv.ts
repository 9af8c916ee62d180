import { CsvError, parse } from 'csv-parse/sync'
import type { SheetRow } from '#core/formats/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'

export const mostColumns = 500

/** The separator of a text: the one that most of its first lines have equally often, outside quotes. */
export function separatorOf(text: string): string {
  const lines = text
    .slice(0, 20_000)
    .replace(/"(?:[^"]|"")*"/g, '')
    .split(/\r?\n/)
    .slice(0, 20)
    .filter((line) => line.trim() !== '')
  const score = (separator: string): number => {
    const counts = lines.map((line) => line.split(separator).length - 1).filter((count) => count > 0)
    return counts.length === 0 ? 0 : counts.length * 1000 + Math.min(...counts)
  }
  return [',', ';', '\t', '|'].reduce((best, each) => (score(each) > score(best) ? each : best))
}

/** Rows of separated values; a quote that never closes and the like are refused with their line. */
export function csvRows(text: string, delimiter: string): SheetRow[] {
  try {
    const rows: SheetRow[] = []
    parse(text, {
      delimiter,
      bom: true,
      relax_column_count: true,
      skip_empty_lines: true,
      relax_quotes: false,
      // The parser counts the line a record ends on; a person looks for the one it starts on.
      on_record: (cells: string[], { lines }) => {
        if (cells.length > mostColumns)
          throw new Refusal('too-large', `Line ${lines} has ${cells.length} columns; at most ${mostColumns} are read.`)
        rows.push({
          line: lines - cells.reduce((sum, cell) => sum + (cell.split('\n').length - 1), 0),
          cells: cells.map(unprotected),
        })
        return null
      },
    })
    return rows
  } catch (error) {
    if (!(error instanceof CsvError)) throw error
    throw new Refusal('invalid', `The file cannot be read as CSV: ${csvSentence(error)}`)
  }
}

/** An apostrophe before what a spreadsheet would take for a formula is how such cells are written out; it is no part of them. */
const unprotected = (cell: string): string => (/^'[=+\-@\t\r']/.test(cell) ? cell.slice(1) : cell)

function csvSentence(error: CsvError): string {
  const line = 'lines' in error ? ` at line ${String(error['lines'])}` : ''
  if (error.code === 'CSV_QUOTE_NOT_CLOSED') return `a quote that opens is never closed${line}.`
  if (error.code === 'INVALID_OPENING_QUOTE' || error.code === 'CSV_INVALID_CLOSING_QUOTE')
    return `a quote stands in the middle of a cell${line}; double it, or take it out.`
  return `${error.message.replace(/[^\x20-\x7e]/g, '').slice(0, 160)}.`
}
