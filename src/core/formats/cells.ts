import { columnName } from './column-names.ts'
import { type FixedField, fixedValues } from './fixed-values.ts'
import type { Mapping } from './mapping.ts'
import type { Problem, SheetRow, UnknownWord } from './shapes.ts'
import { valueOf } from './value-words.ts'

/** What the rows of a sheet are read with: where each field stands, and what came up meanwhile. */
export interface Reader {
  readonly at: ReadonlyMap<string, number>
  /** What words stand for, as a person has mapped them. */
  readonly words: Mapping['words']
  readonly problems: Problem[]
  readonly notices: Problem[]
  /** Words of fields with fixed values that are none of them, by field and word. */
  readonly unknown: Map<string, UnknownWord>
}

export const cell = (reader: Reader, row: SheetRow, field: string): string => {
  const index = reader.at.get(field)
  return index === undefined ? '' : (row.cells[index] ?? '').trim()
}

const placeOf = (reader: Reader, row: SheetRow, field: string): string => {
  const index = reader.at.get(field)
  return index === undefined ? `row ${row.line}` : `row ${row.line}, column ${columnName(index)}`
}

export const complain = (reader: Reader, row: SheetRow, field: string, message: string): void =>
  void reader.problems.push({ at: placeOf(reader, row, field), message })
export const mention = (reader: Reader, row: SheetRow, field: string, message: string): void =>
  void reader.notices.push({ at: placeOf(reader, row, field), message })

/** One of a fixed set; a word that is none of them is read as what is usual, and told, so that a person may say what it stands for. */
export function choice<F extends FixedField>(
  reader: Reader,
  row: SheetRow,
  field: F,
  usual: (typeof fixedValues)[F][number],
): (typeof fixedValues)[F][number] {
  const text = cell(reader, row, field)
  if (text === '') return usual
  const choices: readonly (typeof fixedValues)[F][number][] = fixedValues[field]
  const value = valueOf(field, text, choices, reader.words?.[field])
  const known = choices.find((each) => each === value)
  if (known !== undefined) return known
  const word = text.slice(0, 60)
  const name = `${field} ${word}`
  const before = reader.unknown.get(name)
  reader.unknown.set(name, {
    field,
    word,
    rows: (before?.rows ?? 0) + 1,
    first: before?.first ?? placeOf(reader, row, field),
    usual,
  })
  return usual
}

export const list = (reader: Reader, row: SheetRow, field: string, by: RegExp): string[] =>
  cell(reader, row, field)
    .split(by)
    .map((part) => part.trim())
    .filter((part) => part !== '')

export function titleOf(reader: Reader, row: SheetRow, title: string): string {
  if (title === '') complain(reader, row, 'title', 'has no title')
  if (title.length > 300) complain(reader, row, 'title', 'is longer than 300 characters')
  return title.replace(/\s+/g, ' ')
}

export function customOf(reader: Reader, row: SheetRow): Record<string, string> {
  return Object.fromEntries(
    [...reader.at.keys()]
      .filter((field) => field.startsWith('custom:'))
      .map((field) => [field.slice('custom:'.length), cell(reader, row, field)]),
  )
}

/** Ids that stand for two things: told as problems, since a later import would not know which to change. */
export function complainOfTwins(reader: Reader, rows: readonly { id: string; row: SheetRow }[]): void {
  const seen = new Map<string, number>()
  for (const { id, row } of rows) {
    if (id === '') continue
    const first = seen.get(id)
    if (first === undefined) seen.set(id, row.line)
    else complain(reader, row, 'id', `“${id.slice(0, 60)}” is the id of row ${first} already`)
  }
}
