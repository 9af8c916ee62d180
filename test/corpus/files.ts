import iconv from 'iconv-lite'
import { odsOf, xlsxOf } from '../workbooks.ts'
import { type Language, languages, type Meant } from './languages.ts'

/** A case as a file must be read: `folder` where the file has one. */
export interface Truth extends Meant {
  readonly folder?: string
}
export interface CorpusFile {
  readonly name: string
  readonly bytes: () => Promise<Buffer> | Buffer
  readonly cases: readonly Truth[]
}
type Table = readonly (readonly string[])[]

/** Separated by semicolons, as offices of most of these languages write them. */
const separated = (table: Table, by = ';'): string =>
  table
    .map((row) => row.map((cell) => (/[;,"\n\t]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join(by))
    .join('\r\n')

const levelOf = ({ cases, levels }: Language, of: Meant): string => (of === cases[0] ? levels[0] : levels[1])

/** A row a step, everything said on every row, the steps numbered. */
function everyRow(of: Language): Table {
  const { headers: h } = of
  return [
    [h.title, h.importance, h.tags, h.links, h.number, h.action, h.expected],
    ...of.cases.flatMap((each) =>
      each.steps.map(([action, expected], index) => [
        each.title,
        levelOf(of, each),
        each.tags.join(', '),
        each.links.join(', '),
        String(index + 1),
        action,
        expected,
      ]),
    ),
  ]
}

/** What belongs to the case stands on its first row; a title of the whole sheet and an empty row stand above. */
function firstRow(of: Language): Table {
  const { headers: h } = of
  return [
    ['Tarnsey – 2.4'],
    [],
    [h.folder, h.title, h.importance, h.tags, h.links, h.action, h.expected],
    ...of.cases.flatMap((each) =>
      each.steps.map(([action, expected], index) =>
        index === 0
          ? [of.folder, each.title, levelOf(of, each), each.tags.join(', '), each.links.join(', '), action, expected]
          : ['', '', '', '', '', action, expected],
      ),
    ),
  ]
}

/** A row a case, its steps and results numbered within one cell each; the second result of a case is left out where it says nothing. */
function oneCell(of: Language, mark: (n: number) => string): Table {
  const { headers: h } = of
  const lines = (each: Meant, part: 0 | 1) =>
    each.steps.map((step, index) => `${mark(index + 1)} ${step[part]}`).join('\n')
  return [
    [h.title, h.action, h.expected, h.importance, h.tags, h.links],
    ...of.cases.map((each) => [
      each.title,
      lines(each, 0),
      lines(each, 1),
      levelOf(of, each),
      each.tags.join(', '),
      each.links.join(', '),
    ]),
  ]
}

/** Two rows of headers with numbers, units and line breaks in them; the numbers of the steps first; each result in a row of its own. */
function ownRows(of: Language): Table {
  const { headers: h } = of
  return [
    [`1. ${h.title.toUpperCase()}`, '', h.links, `${h.importance} *`, h.tags, ''],
    [`${h.number} (1–n)`, h.title, h.links, `${h.importance}\n(P1–P4)`, h.tags, `${h.action}:`, `${h.expected} [?]`],
    ...of.cases.flatMap((each) =>
      each.steps.flatMap(([action, expected], index) => [
        [
          String(index + 1),
          index === 0 ? each.title : '',
          index === 0 ? each.links.join(', ') : '',
          index === 0 ? levelOf(of, each) : '',
          index === 0 ? each.tags.join(', ') : '',
          action,
        ],
        ['', '', '', '', '', '', expected],
      ]),
    ),
  ]
}

const everyFolder = (of: Language): Truth[] => of.cases.map((each) => ({ ...each, folder: of.folder }))

/** Five files of each language: another layout, another kind of file each. */
const ofLanguage = (of: Language): CorpusFile[] => [
  { name: `${of.name}, a row a step, a workbook`, bytes: () => xlsxOf({ Tests: everyRow(of) }), cases: of.cases },
  {
    name: `${of.name}, the case on its first row, separated values in ${of.encoding}`,
    bytes: () => iconv.encode(separated(firstRow(of).filter((row) => row.length > 1)), of.encoding),
    cases: everyFolder(of),
  },
  {
    name: `${of.name}, the case on its first row, an OpenDocument sheet`,
    bytes: () => odsOf('Tests', firstRow(of)),
    cases: everyFolder(of),
  },
  {
    name: `${of.name}, steps numbered in one cell`,
    bytes: () => xlsxOf({ Tests: oneCell(of, (n) => `${n}.`) }),
    cases: of.cases,
  },
  {
    name: `${of.name}, steps with bullets in one cell, tabs in UTF-16`,
    bytes: () =>
      iconv.encode(
        separated(
          oneCell(of, () => '•'),
          '\t',
        ),
        'UTF-16LE',
        { addBOM: true },
      ),
    cases: of.cases,
  },
  {
    name: `${of.name}, two rows of headers and results in rows of their own`,
    bytes: () => xlsxOf({ Tests: ownRows(of) }),
    cases: of.cases,
  },
]

export const corpus: readonly CorpusFile[] = languages.flatMap(ofLanguage)
