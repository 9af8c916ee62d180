import { stringify } from 'csv-stringify/sync'

/** Rows as CSV. A cell that a spreadsheet would take for a formula is written with an apostrophe before it; so is one that would read as if it had been. */
export const csvText = (rows: readonly (readonly (string | number)[])[]): string =>
  stringify(rows.map((row) => row.map(neutral)))

const neutral = (cell: string | number): string | number =>
  typeof cell === 'string' && /^'?[=+\-@\t\r]|^''/.test(cell) ? `'${cell}` : cell
