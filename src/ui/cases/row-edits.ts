import { splitCells } from '#core/cases/steps.ts'
import type { Draft } from './draft.ts'

type Rows = Draft['rows']

export const withValue = (rows: Rows, at: number, name: string, value: string): Rows =>
  rows.map((row, index) => (index === at ? { ...row, [name]: value } : row))

/** Cells of a spreadsheet fill from where they land, down into new rows, but never past the last parameter. */
export function withCells(
  { rows, parameters }: Pick<Draft, 'rows' | 'parameters'>,
  text: string,
  at: number,
  column: number,
): Rows {
  const cells = splitCells(text)
  const count = Math.max(rows.length, at + cells.length)
  return Array.from({ length: count }, (_, index) => {
    const given = index < at ? [] : (cells[index - at] ?? [])
    const values = given.flatMap((value, offset): [string, string][] => {
      const name = parameters[column + offset]
      return name ? [[name, value.trim()]] : []
    })
    return { ...rows[index], ...Object.fromEntries(values) }
  })
}

/** Was more than the text of one cell copied? */
export const isTable = (text: string): boolean => /[\t\n]/.test(text.trim())
