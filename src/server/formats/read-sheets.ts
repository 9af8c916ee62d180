import {
  guessMapping,
  emptyMapping,
  fitsSheet,
  type Guess,
  headersOf,
  mappingProblem,
} from '#core/formats/guess-mapping.ts'
import { type Mapping, mappingOf, readAlike, type SheetMapping, sheetPart } from '#core/formats/mapping.ts'
import { joined } from '#core/formats/joined.ts'
import { counted } from '#core/lib/figures.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { raggedRows, readSheet } from '#core/formats/read-sheet.ts'
import { type FileRead, nothingRead, type Problem, type Sheet, type UnknownWord } from '#core/formats/shapes.ts'
import type { ReadAnswer, ReadOptions } from './read-file.ts'
import type { WorkbookRead } from './read-workbook.ts'

export interface SheetShown {
  readonly name: string
  readonly rows: number
  readonly columns: number
  /** The first rows as they stand, for choosing the header and the columns. */
  readonly top: readonly { readonly line: number; readonly cells: readonly string[] }[]
}

const isFilled = ({ rows }: Sheet): boolean => rows.some(({ cells }) => cells.some((cell) => cell.trim() !== ''))
const quoted = (names: readonly string[]): string => names.map((name) => `“${name}”`).join(', ')

/** Reads the sheets of a file: each as the mapping says, or as it is guessed for that sheet; the answer's mapping reads the file the same again. */
export function readSheets(
  format: 'csv' | 'xlsx' | 'ods',
  workbook: WorkbookRead,
  options: ReadOptions,
  told: string,
): ReadAnswer {
  const wrong = options.mapping ? mappingProblem(options.mapping, options.custom ?? null) : null
  if (wrong !== null) throw new Refusal('invalid', wrong)
  const shown = workbook.sheets.map(shownSheet)
  const filled = workbook.sheets.filter(isFilled)
  const nothing = { ...nothingRead, notices: workbook.notices }
  if (filled.length === 0) return { format, read: nothing, mapping: null, sheets: shown, told, fits: null }
  const chosen = chosenSheets(workbook, filled, options.mapping ?? null)
  const guesses = options.mapping ? chosen.map((sheet) => ({ sheet, guess: null })) : guessedSheets(chosen, options)
  const mapping = options.mapping ?? mappingFor(guesses, filled.length > 1)
  if (!mapping) throw unrecognised(chosen[0])
  const isRead = ({ name }: Sheet): boolean => mapping.sheets?.includes(name) ?? true
  const read = guesses
    .filter(({ sheet }) => isRead(sheet))
    .reduce<FileRead>((sum, { sheet, guess }) => {
      const own = readSheet(mapping, sheet)
      const ragged = format === 'csv' ? raggedRows(mapping, sheet) : []
      const notices = [...byContents(sheet, mappingOf(mapping, sheet.name), guess), ...own.notices]
      return joined(
        sum,
        { ...own, notices, problems: [...ragged, ...own.problems] },
        filled.length > 1 ? `sheet “${sheet.name}”` : null,
      )
    }, nothing)
  // Sheets that hold something else than the first are passed over, and that is told.
  const passed = filled
    .filter((sheet) => !isRead(sheet))
    .map(({ name }) => ({ at: `sheet “${name}”`, message: 'is not read' }))
  const first = chosen.find(isRead)
  return {
    format,
    read: { ...read, notices: [...passed, ...read.notices, ...read.unknown.map(unknownWord)] },
    mapping: { ...mapping, headers: first ? headersOf(first, mappingOf(mapping, first.name).header) : {} },
    sheets: shown,
    told,
    fits: first ? ((options.kept ?? []).find((kept) => fitsSheet(kept.mapping, first))?.name ?? null) : null,
  }
}

function byContents(sheet: Sheet, { columns }: SheetMapping, guess: Guess | null): Problem[] {
  const headers = guess ? headersOf(sheet, guess.mapping.header) : {}
  return (guess?.byContents ?? []).map((column) => ({
    at: `column ${column}`,
    message: `is taken for “${columns[column] ?? ''}” by what stands in it, not by its header${headers[column] ? ` “${headers[column]}”` : ''}`,
  }))
}

const unknownWord = ({ first, word, rows, usual }: UnknownWord): Problem => ({
  at: first,
  message: `“${word}” (${counted(rows, 'row')}) is read as ${usual === '' ? 'open' : usual} until it is said what it stands for`,
})

/** So many rows of a sheet are shown. */
const mostShown = 12

const shownSheet = ({ name, rows }: Sheet): SheetShown => ({
  name,
  rows: rows.length,
  columns: rows.reduce((most, { cells }) => Math.max(most, cells.length), 0),
  top: rows.slice(0, mostShown),
})

/** The sheets that a mapping names, or all that say something. */
function chosenSheets(workbook: WorkbookRead, filled: readonly Sheet[], given: Mapping | null): readonly Sheet[] {
  const names = given?.sheets ?? null
  if (names === null) return filled
  const chosen = filled.filter(({ name }) => names.includes(name))
  if (chosen.length === 0)
    throw new Refusal(
      'invalid',
      `None of the sheets ${quoted(names)} is in the file; it has ${quoted(workbook.sheets.map(({ name }) => name))}.`,
    )
  return chosen
}

interface GuessedSheet {
  readonly sheet: Sheet
  readonly guess: Guess | null
}

/** Each sheet with how it is guessed. Where none can be guessed, the first may be shown to be mapped by hand. */
function guessedSheets(chosen: readonly Sheet[], { what, custom = [], lenient }: ReadOptions): GuessedSheet[] {
  const guessed = chosen.flatMap((sheet): GuessedSheet[] => {
    const guess = guessMapping(sheet, what ?? null, custom)
    return guess ? [{ sheet, guess }] : []
  })
  const [first] = chosen
  if (guessed.length > 0 || !lenient || !first) return guessed
  return [{ sheet: first, guess: { mapping: emptyMapping(first, what ?? 'cases'), byContents: [] } }]
}

/** One mapping for all sheets of the kind of the first; a sheet whose columns stand otherwise keeps its own. */
function mappingFor(guesses: readonly GuessedSheet[], several: boolean): Mapping | null {
  const first = guesses[0]?.guess?.mapping
  if (!first) return null
  const alike = guesses.filter(({ guess }) => guess?.mapping.what === first.what)
  const own = Object.fromEntries(
    alike
      .slice(1)
      .flatMap(({ sheet, guess }): [string, SheetMapping][] =>
        guess && !readAlike(guess.mapping, first) ? [[sheet.name, sheetPart(guess.mapping)]] : [],
      ),
  )
  return {
    ...first,
    sheets: several ? alike.map(({ sheet }) => sheet.name) : null,
    ...(Object.keys(own).length > 0 && { own }),
  }
}

function unrecognised(sheet: Sheet | undefined): Refusal {
  const header = sheet?.rows.find(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  const reads = quoted((header?.cells ?? []).slice(0, 5).map((cell) => cell.slice(0, 30)))
  return new Refusal(
    'invalid',
    `Row ${header?.line ?? 1} is not a header that can be recognised (it reads ${reads}). Name the columns, at least “title”.`,
  )
}
