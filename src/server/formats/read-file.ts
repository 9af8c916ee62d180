import { guessWhat, type What } from '#core/formats/columns.ts'
import { importFormats } from '#core/formats/contract.ts'
import { looksLikeFeature, readGherkin } from '#core/formats/gherkin.ts'
import { joined } from '#core/formats/joined.ts'
import type { Mapping } from '#core/formats/mapping.ts'
import { readMarkdown } from '#core/formats/markdown.ts'
import { readReqif } from '#core/formats/reqif.ts'
import { type FileRead, nothingRead, type Problem } from '#core/formats/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { csvRows, separatorOf } from './read-csv.ts'
import { readText } from './read-text.ts'
import { readSheets, type SheetShown } from './read-sheets.ts'
import { readOds, readXlsx } from './read-workbook.ts'
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
  /** Mappings that are kept in the project: one that fits the file is named. */
  readonly kept?: readonly { readonly name: string; readonly mapping: Mapping }[]
  /** Where nothing is recognised: answer a mapping to be filled in, with what is missing as a problem, instead of a refusal. */
  readonly lenient?: boolean
}
export interface ReadAnswer {
  readonly format: (typeof importFormats)[number]
  readonly read: FileRead
  readonly mapping: Mapping | null
  readonly sheets: readonly SheetShown[]
  /** How the bytes were read, where that can be told: `UTF-8, separated by “;”`. */
  readonly told: string
  /** A kept mapping that was made for such a file. */
  readonly fits: string | null
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
      fits: null,
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
      fits: null,
    }
  if (format === 'markdown')
    return {
      format,
      read: withNotices(readMarkdown(text), notices),
      mapping: null,
      sheets: [],
      told: `Markdown, ${encoding}`,
      fits: null,
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
  if (looksLikeFeature(head)) return 'gherkin'
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
