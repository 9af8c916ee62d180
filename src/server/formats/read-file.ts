import { dialects } from '@cucumber/gherkin'
import { guessWhat, type What } from '#core/formats/columns.ts'
import { importFormats } from '#core/formats/contract.ts'
import { readGherkin } from '#core/formats/gherkin.ts'
import { emptyMapping, guessMapping, type Mapping } from '#core/formats/mapping.ts'
import { readMarkdown } from '#core/formats/markdown.ts'
import { raggedRows, readSheet } from '#core/formats/read-sheet.ts'
import { readReqif } from '#core/formats/reqif.ts'
import { type FileRead, nothingRead, type Problem, type Sheet } from '#core/formats/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { csvRows, separatorOf } from './read-csv.ts'
import { readText } from './read-text.ts'
import { readOds, readXlsx, type WorkbookRead } from './read-workbook.ts'
import { readZip } from './zip.ts'

export const fileFormats = [...importFormats, 'rovant-archive'] as const
export type FileFormat = (typeof fileFormats)[number]
export const mostFileBytes = 50_000_000

export interface ReadOptions {
  readonly format?: FileFormat | undefined
  readonly what?: What | undefined
  readonly mapping?: Mapping | undefined
  /** Names of the project's own fields, which headers may name. */
  readonly custom?: readonly string[]
  /** Where nothing is recognised: answer a mapping to be filled in, with what is missing as a problem, instead of a refusal. */
  readonly lenient?: boolean
}
interface SheetShown {
  readonly name: string
  readonly rows: number
  readonly columns: number
  /** The first rows as they stand, for choosing the header and the columns. */
  readonly top: readonly { readonly line: number; readonly cells: readonly string[] }[]
}
export interface ReadAnswer {
  readonly format: (typeof importFormats)[number]
  readonly read: FileRead
  readonly mapping: Mapping | null
  readonly sheets: readonly SheetShown[]
  /** How the bytes were read, where that can be told: `UTF-8, separated by “;”`. */
  readonly told: string
}

/** Reads a file of any format; what cannot be read at all is refused with the place, what is wrong within is told as problems. */
export async function readFile(bytes: Buffer, options: ReadOptions = {}): Promise<ReadAnswer> {
  if (bytes.length > mostFileBytes)
    throw new Refusal(
      'too-large',
      `The file has ${Math.round(bytes.length / 1e6)} MB; at most ${mostFileBytes / 1e6} MB are read. Split it.`,
    )
  const format = options.format ?? (await formatOf(bytes))
  if (format === 'rovant-archive')
    throw new Refusal(
      'wrong-kind',
      'This is an archive of a whole project; it is imported as a project of its own, not into one.',
    )
  if (format === 'xlsx' || format === 'ods') {
    refuseOld(bytes)
    return readSheets(
      format,
      format === 'xlsx' ? await readXlsx(bytes) : await readOds(bytes),
      options,
      format === 'xlsx' ? 'a workbook' : 'an OpenDocument workbook',
    )
  }
  if (format === 'reqif')
    return {
      format,
      read: await readReqifBytes(bytes),
      mapping: null,
      sheets: [],
      told: isZip(bytes) ? 'a packed ReqIF document' : 'a ReqIF document',
    }
  const { text, encoding, perhaps } = readText(bytes, options.mapping?.encoding ?? null)
  const notices = doubtOf(encoding, perhaps)
  if (format === 'gherkin')
    return {
      format,
      read: withNotices(readGherkin(text), notices),
      mapping: null,
      sheets: [],
      told: `a feature file, ${encoding}`,
    }
  if (format === 'markdown')
    return {
      format,
      read: withNotices(readMarkdown(text), notices),
      mapping: null,
      sheets: [],
      told: `Markdown, ${encoding}`,
    }
  const separator = separatorOf(text)
  return readSheets(
    'csv',
    { sheets: [{ name: 'csv', rows: csvRows(text, separator) }], notices },
    options,
    `${encoding}, separated by ${separator === '\t' ? 'tabs' : `“${separator}”`}`,
  )
}

const withNotices = (read: FileRead, notices: readonly Problem[]): FileRead => ({
  ...read,
  notices: [...notices, ...read.notices],
})

/** Says that the encoding is a guess, where another one is nearly as likely. */
const doubtOf = (encoding: string, perhaps: string | null): Problem[] =>
  perhaps === null
    ? []
    : [
        {
          at: 'the file',
          message: `is read as ${encoding}; it may be ${perhaps}. If letters look wrong, say what it is, or save it as UTF-8`,
        },
      ]

const isZip = (bytes: Buffer): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

function refuseOld(bytes: Buffer): void {
  if (bytes.subarray(0, 4).equals(Buffer.from([0xd0, 0xcf, 0x11, 0xe0])))
    throw new Refusal(
      'wrong-kind',
      'This workbook is encrypted, or in the old binary format. Save it as .xlsx without a password and try again.',
    )
}

const featureWords = [...new Set(Object.values(dialects).flatMap(({ feature }) => feature))]

/** The format by what is in the file, never by its name. */
export async function formatOf(bytes: Buffer): Promise<FileFormat> {
  refuseOld(bytes)
  if (isZip(bytes)) {
    const names: string[] = []
    const parts = await readZip(bytes, (name) => {
      names.push(name)
      return name === 'mimetype'
    })
    if (names.includes('xl/workbook.xml')) return 'xlsx'
    if (parts.get('mimetype')?.toString('utf8').startsWith('application/vnd.oasis.opendocument.spreadsheet'))
      return 'ods'
    if (names.includes('rovant-archive.json')) return 'rovant-archive'
    if (names.some((name) => name.endsWith('.reqif'))) return 'reqif'
    throw new Refusal('wrong-kind', 'This zip is neither a workbook, nor a ReqIF document, nor an archive of Rovant.')
  }
  const head = readText(bytes.subarray(0, 200_000)).text.replace(/^\ufeff/, '')
  if (/^\s*</.test(head) && /REQ-IF/.test(head)) return 'reqif'
  if (/^\s*<(\?xml|!DOCTYPE)/i.test(head)) return 'reqif'
  const lines = head.split(/\r?\n/)
  // A first line of known headers settles it: a cell further down may well begin a line like a heading or a keyword.
  const headers = (lines.find((line) => line.trim() !== '') ?? '')
    .split(separatorOf(head))
    .map((cell) => cell.replaceAll('"', ''))
  if (headers.length > 1 && guessWhat(headers) !== null) return 'csv'
  if (lines.some((line) => featureWords.some((word) => line.trimStart().startsWith(`${word}:`)))) return 'gherkin'
  return lines.some((line) => /^#{1,6}\s+\S/.test(line)) ? 'markdown' : 'csv'
}

async function readReqifBytes(bytes: Buffer): Promise<FileRead> {
  if (!isZip(bytes)) return readReqif(readText(bytes).text)
  const documents = [...(await readZip(bytes, (name) => name.endsWith('.reqif')))]
  if (documents.length === 0) throw new Refusal('wrong-kind', 'There is no ReqIF document in this zip.')
  return documents
    .map(([name, part]) => ({ name, read: readReqif(readText(part).text) }))
    .reduce<FileRead>((sum, { name, read }) => joined(sum, read, documents.length > 1 ? name : null), nothingRead)
}

/** Several documents or sheets as one: parents keep pointing at their own, places say where they are from. */
function joined(sum: FileRead, next: FileRead, from: string | null): FileRead {
  const offset = sum.requirements.length
  const at = (each: { at: string; message: string }) => (from === null ? each : { ...each, at: `${from}, ${each.at}` })
  return {
    requirements: [
      ...sum.requirements,
      ...next.requirements.map((each) => ({
        ...each,
        parent: typeof each.parent === 'number' ? each.parent + offset : each.parent,
      })),
    ],
    cases: [...sum.cases, ...next.cases],
    relations: [...sum.relations, ...next.relations],
    problems: [...sum.problems, ...next.problems.map(at)],
    notices: [...sum.notices, ...next.notices.map(at)],
    rich: sum.rich || next.rich,
    fields: [...new Set([...sum.fields, ...next.fields])],
  }
}

const isFilled = ({ rows }: Sheet): boolean => rows.some(({ cells }) => cells.some((cell) => cell.trim() !== ''))
const quoted = (names: readonly string[]): string => names.map((name) => `“${name}”`).join(', ')

function readSheets(
  format: 'csv' | 'xlsx' | 'ods',
  workbook: WorkbookRead,
  options: ReadOptions,
  told: string,
): ReadAnswer {
  const filled = workbook.sheets.filter(isFilled)
  if (filled.length === 0) throw new Refusal('invalid', 'The file is empty.')
  const chosen = chosenSheets(workbook, filled, options.mapping ?? null)
  const known = mappedSheets(chosen, options)
  const [first] = known
  if (!first) throw unrecognised(chosen[0])
  // Sheets that hold something else than the first are passed over, and that is told.
  const alike = known.filter(({ mapping }) => mapping.what === first.mapping.what)
  const passed = filled
    .filter((sheet) => !alike.some((each) => each.sheet === sheet))
    .map(({ name }) => ({ at: `sheet “${name}”`, message: 'is not read' }))
  const several = filled.length > 1
  const read = alike.reduce<FileRead>(
    (sum, { sheet, mapping }) => {
      const own = readSheet(mapping, sheet)
      const ragged = format === 'csv' ? raggedRows(mapping, sheet) : []
      const told = { ...own, problems: [...ragged, ...own.problems] }
      return joined(sum, told, several ? `sheet “${sheet.name}”` : null)
    },
    { ...nothingRead, notices: [...workbook.notices, ...passed] },
  )
  const sheets = options.mapping?.sheets ?? (several ? alike.map(({ sheet }) => sheet.name) : null)
  return {
    format,
    read,
    mapping: { ...first.mapping, sheets },
    sheets: workbook.sheets.map(shownSheet),
    told,
  }
}

/** So many rows of a sheet are shown. */
const mostShown = 12

const shownSheet = ({ name, rows }: Sheet) => ({
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

interface MappedSheet {
  readonly sheet: Sheet
  readonly mapping: Mapping
}

/** Each sheet with how it is read: as given, else as guessed. Where none can be guessed, the first may be shown to be mapped by hand. */
function mappedSheets(chosen: readonly Sheet[], { mapping, what, custom = [], lenient }: ReadOptions) {
  const guessed = chosen.flatMap((sheet): MappedSheet[] => {
    const own = mapping ?? guessMapping(sheet, what ?? null, custom)
    return own ? [{ sheet, mapping: own }] : []
  })
  const [first] = chosen
  if (guessed.length > 0 || !lenient || !first) return guessed
  return [{ sheet: first, mapping: emptyMapping(first, what ?? 'cases') }]
}

function unrecognised(sheet: Sheet | undefined): Refusal {
  const header = sheet?.rows.find(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  const reads = quoted((header?.cells ?? []).slice(0, 5).map((cell) => cell.slice(0, 30)))
  return new Refusal(
    'invalid',
    `Row ${header?.line ?? 1} is not a header that can be recognised (it reads ${reads}). Name the columns, at least “title”.`,
  )
}
