import { splitCells } from '#core/cases/steps.ts'
import type { TableSheet } from '#core/reuse/table-contract.ts'

/** A row as it is stored: with its id when the table has it already. */
interface EditRow {
  readonly id: number | null
  readonly values: Record<string, string>
}
/** The table after an edit: all of its rows and columns. */
export interface TableEdit {
  readonly rows: readonly EditRow[]
  readonly columns: readonly string[]
}

export const tableOf = ({ values, columns }: TableSheet): TableEdit => ({
  rows: values.map(({ id, values: own }) => ({ id, values: own })),
  columns,
})

/** Cells of a spreadsheet fill from where they land: down into new rows, but never past the last column. */
export function pasted({ rows, columns }: TableEdit, text: string, at: number, column: number): TableEdit {
  const next = rows.map((row): EditRow => ({ ...row }))
  splitCells(text.trimEnd()).forEach((line, down) => {
    const row = next[at + down] ?? { id: null, values: {} }
    const filled = line.flatMap((cell, right): [string, string][] => {
      const name = columns[column + right]
      return name === undefined ? [] : [[name, cell.trim()]]
    })
    next[at + down] = { ...row, values: { ...row.values, ...Object.fromEntries(filled) } }
  })
  return { rows: next, columns }
}

/** A column with another name; without any it goes, with what its cells say. */
export const renamed = ({ rows, columns }: TableEdit, name: string, to: string): TableEdit => ({
  rows: rows.map(({ id, values: { [name]: own = '', ...rest } }) => ({
    id,
    values: to === '' ? rest : { ...rest, [to]: own },
  })),
  columns: to === '' ? columns.filter((each) => each !== name) : columns.map((each) => (each === name ? to : each)),
})

/** One cell says something else. */
export const set = ({ rows, columns }: TableEdit, at: number, name: string, value: string): TableEdit => ({
  rows: rows.map((row, index) => (index === at ? { ...row, values: { ...row.values, [name]: value } } : row)),
  columns,
})

export const withColumn = (of: TableEdit, name: string): TableEdit =>
  name === '' || of.columns.includes(name) ? of : { ...of, columns: [...of.columns, name] }
export const withRow = (of: TableEdit): TableEdit => ({ ...of, rows: [...of.rows, { id: null, values: {} }] })
export const withoutRow = (of: TableEdit, id: number): TableEdit => ({
  ...of,
  rows: of.rows.filter((row) => row.id !== id),
})
