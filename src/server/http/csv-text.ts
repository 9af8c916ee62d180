import { stringify } from 'csv-stringify/sync'

/** Rows as CSV. A cell that a spreadsheet would take for a formula is written with an apostrophe before it; so is one that would read as if it had been. */
export const csvText = (rows: readonly (readonly (string | number)[])[]): string =>
  stringify(rows.map((row) => row.map(neutral)))

const neutral = (cell: string | number): string | number =>
  typeof cell === 'string' && /^'?[=+\-@\t\r]|^''/.test(cell) ? `'${cell}` : cell

/** A table as a file to keep. */
export const csvAnswer = (name: string, rows: readonly (readonly (string | number)[])[]): Response =>
  new Response(csvText(rows), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${name}.csv"`,
    },
  })
