import { withValues } from '#core/cases/steps.ts'
import type { Block, Paper } from '#core/lib/paper.ts'
import { plainText } from '#core/lib/plain-text.ts'

// A run as a file: to be read away from here, or to be filled in by somebody who has no sign-in and brought back.

/** What may be left out of a file. */
export const fileParts = ['rows', 'steps', 'words', 'defects', 'pictures'] as const
export type FilePart = (typeof fileParts)[number]

interface FileMark {
  readonly row: number
  /** Its place in the steps, from 1. */
  readonly step: number
  readonly verdict: string
  readonly comment: string
}
export interface FileItem {
  readonly id: number
  readonly case: string
  readonly title: string
  readonly version: string
  readonly environment: string
  readonly tester: string
  readonly minutes: number
  readonly before: string
  readonly steps: readonly { readonly action: string; readonly expected: string; readonly data: string }[]
  readonly rows: readonly Readonly<Record<string, string>>[]
  readonly verdict: string
  readonly words: string
  readonly executed: string
  readonly build: string
  readonly defects: readonly string[]
  readonly marks: readonly FileMark[]
  /** As data URLs. */
  readonly pictures: readonly { readonly name: string; readonly data: string }[]
}

export interface FileOf {
  readonly run: string
  readonly parts: readonly FilePart[]
  /** To be filled in: results are left empty, and what is asked for stands there. */
  readonly blank: boolean
}

const columns = [
  'Item',
  'Case',
  'Title',
  'Version',
  'Environment',
  'Tester',
  'Min',
  'Row',
  'Values',
  'Step',
  'Action',
  'Expected',
  'Data',
  'Verdict',
  'What happened',
  'Executed',
  'Build',
  'Defects',
] as const
type Column = (typeof columns)[number]
const neededBy: Readonly<Partial<Record<Column, FilePart>>> = {
  Row: 'rows',
  Values: 'rows',
  Step: 'steps',
  Action: 'steps',
  Expected: 'steps',
  Data: 'steps',
  'What happened': 'words',
  Defects: 'defects',
}

const valuesText = (values: Readonly<Record<string, string>>): string =>
  Object.entries(values)
    .map(([name, value]) => `${name}: ${value}`)
    .join('; ')

/** How an item is named in a file, so that it is found again when it comes back. */
const itemKey = (run: string, id: number): string => `${run}/${id}`

/** The data rows a file tells steps of: all of them where rows are asked for, else the first. */
const rowsOf = (item: FileItem, parts: readonly FilePart[]): readonly Readonly<Record<string, string>>[] =>
  item.rows.length === 0 ? [{}] : parts.includes('rows') ? item.rows : item.rows.slice(0, 1)

/** A run as a table: a line for each item, then one for each of its steps in each of its data rows. */
export function runTable(items: readonly FileItem[], { run, parts, blank }: FileOf): string[][] {
  // Who fills in what happened has to have room for it.
  const shown = columns.filter((column) => {
    const part = neededBy[column]
    return part === undefined || parts.includes(part) || (blank && column === 'What happened')
  })
  const line = (cells: Partial<Record<Column, string>>): string[] => shown.map((column) => cells[column] ?? '')
  return [
    [...shown],
    ...items.flatMap((item) => {
      const own = { Item: itemKey(run, item.id), Case: item.case, Environment: item.environment, Version: item.version }
      return [
        line({
          ...own,
          Title: item.title,
          Tester: item.tester,
          Min: String(item.minutes),
          Action: plainText(item.before),
          ...(!blank && {
            Verdict: item.verdict,
            'What happened': item.words,
            Executed: item.executed,
            Build: item.build,
            Defects: item.defects.join(', '),
          }),
        }),
        ...stepLines(item, { parts, blank }).map((cells) => line({ ...own, ...cells })),
      ]
    }),
  ]
}

function stepLines(item: FileItem, { parts, blank }: Omit<FileOf, 'run'>): Partial<Record<Column, string>>[] {
  if (!parts.includes('steps') && !parts.includes('rows')) return []
  return rowsOf(item, parts).flatMap((values, at) => {
    const row = { Row: String(at + 1), Values: valuesText(values) }
    if (!parts.includes('steps')) return item.rows.length === 0 ? [] : [row]
    return item.steps.map((step, index) => {
      const mark = item.marks.find((each) => each.row === at + 1 && each.step === index + 1)
      return {
        ...row,
        Step: String(index + 1),
        Action: plainText(withValues(step.action, values)),
        Expected: plainText(withValues(step.expected, values)),
        Data: plainText(withValues(step.data, values)),
        ...(!blank && mark && { Verdict: mark.verdict, 'What happened': plainText(mark.comment) }),
      }
    })
  })
}

/** The same to read, or to fill in with a pen. */
export function runPaper(
  items: readonly FileItem[],
  of: FileOf & { readonly title: string; readonly under: string },
): Paper {
  return { title: of.title, under: of.under, blocks: items.flatMap((item) => itemBlocks(item, of)) }
}

const choose = 'Passed   /   Failed   /   Blocked   /   Skipped   /   Inconclusive'

function itemBlocks(item: FileItem, of: FileOf): Block[] {
  const { parts, blank } = of
  const told = [
    itemKey(of.run, item.id),
    item.version,
    item.environment,
    item.tester,
    `${item.minutes} min`,
    ...(blank ? [] : [item.executed, item.build]),
  ]
  const result = blank
    ? `Circle one:   ${choose}\nWhat happened:\n\n`
    : [
        item.verdict,
        parts.includes('words') ? item.words : '',
        parts.includes('defects') && item.defects.length > 0 ? `Defects: ${item.defects.join(', ')}` : '',
      ]
        .filter((each) => each !== '')
        .join('\n')
  return [
    { kind: 'heading', level: 3, text: `${item.case} ${item.title}` },
    { kind: 'text', text: told.filter((each) => each !== '').join(' · ') },
    ...(parts.includes('steps') && item.before !== ''
      ? [{ kind: 'text' as const, text: `Before: ${plainText(item.before)}` }]
      : []),
    ...stepBlocks(item, of),
    { kind: 'text', text: result },
    ...(parts.includes('pictures')
      ? item.pictures.map(({ name, data }) => ({ kind: 'picture' as const, name, data }))
      : []),
  ]
}

function stepBlocks(item: FileItem, { parts, blank }: FileOf): Block[] {
  if (!parts.includes('steps')) {
    const rows = parts.includes('rows') ? item.rows : []
    return rows.map((values, at) => ({ kind: 'text', text: `Row ${at + 1}: ${valuesText(values)}` }))
  }
  if (item.steps.length === 0) return []
  return rowsOf(item, parts).flatMap((values, at): Block[] => [
    ...(item.rows.length > 0 ? [{ kind: 'text' as const, text: `Row ${at + 1}: ${valuesText(values)}` }] : []),
    {
      kind: 'table',
      columns: [
        { title: '', width: 14 },
        { title: 'Action', width: '*' },
        { title: 'Expected', width: '*' },
        { title: 'Data', width: 70 },
        { title: 'Verdict', width: 60 },
        ...(blank || parts.includes('words') ? [{ title: 'What happened', width: 90 }] : []),
      ],
      rows: stepLines({ ...item, rows: [values] }, { parts: ['steps'], blank: true }).map((step, index) => {
        const mark = item.marks.find((each) => each.row === at + 1 && each.step === index + 1)
        return [
          step.Step ?? '',
          step.Action ?? '',
          step.Expected ?? '',
          step.Data ?? '',
          blank ? '' : (mark?.verdict ?? ''),
          ...(blank || parts.includes('words') ? [blank ? '' : plainText(mark?.comment ?? '')] : []),
        ]
      }),
    },
  ])
}

/** A line of a file, counted from 1. */
export interface FileLine {
  readonly line: number
  readonly cells: readonly string[]
}

/** What a file that comes back says of an item. */
export interface Returned {
  readonly item: number
  /** The line of the file it begins at. */
  readonly line: number
  readonly version: string
  readonly verdict: string
  readonly words: string
  readonly steps: readonly {
    readonly row: number
    readonly step: number
    readonly verdict: string
    readonly words: string
  }[]
}
export interface ReturnedFile {
  readonly items: readonly Returned[]
  /** Items that nothing was said of. */
  readonly empty: number
  readonly problems: readonly { readonly line: number; readonly message: string }[]
}

/** Reads a table that was taken out as `runTable` wrote it; columns may stand in another order, and others between them. */
export function readReturned(table: readonly FileLine[], run: string): ReturnedFile | null {
  const head = table.findIndex(({ cells }) => at(cells, 'Item') >= 0 && at(cells, 'Verdict') >= 0)
  const header = table[head]?.cells
  if (!header) return null
  const place = Object.fromEntries(columns.map((column) => [column, at(header, column)])) as Record<Column, number>
  const items = new Map<number, Returned>()
  const problems: { line: number; message: string }[] = []
  for (const { line, cells } of table.slice(head + 1)) {
    const of = (column: Column): string => (cells[place[column]] ?? '').trim()
    if (cells.every((cell) => cell.trim() === '')) continue
    const key = /^(RN-\d+)\/(\d+)$/.exec(of('Item'))
    if (!key) problems.push({ line, message: `“${of('Item')}” names no item; it stays as it was taken out` })
    else if (key[1] !== run) problems.push({ line, message: `is an item of ${key[1]}, and this is ${run}` })
    else noteLine(items, { item: Number(key[2]), line, of, problems })
  }
  const all = [...items.values()]
  const said = all.filter((each) => each.verdict !== '' || each.steps.length > 0)
  return { items: said, empty: all.length - said.length, problems }
}

function noteLine(
  items: Map<number, Returned>,
  {
    item,
    line,
    of,
    problems,
  }: { item: number; line: number; of: (column: Column) => string; problems: { line: number; message: string }[] },
): void {
  const before = items.get(item) ?? { item, line, version: of('Version'), verdict: '', words: '', steps: [] }
  const [verdict, words] = [said(of('Verdict')), of('What happened')]
  if (of('Step') === '' && of('Row') === '') {
    items.set(item, { ...before, verdict, words })
    return
  }
  items.set(item, before)
  if (verdict === '' && words === '') return
  const [row, step] = [Number(of('Row') || '1'), Number(of('Step'))]
  if (!Number.isInteger(row) || !Number.isInteger(step) || row < 1 || step < 1)
    problems.push({ line, message: `names no step: row “${of('Row')}”, step “${of('Step')}”` })
  else items.set(item, { ...before, steps: [...before.steps, { row, step, verdict, words }] })
}

/** Not run is what stands there where nothing was said. */
const said = (verdict: string): string => (/^(not run|in progress|-|–)$/i.test(verdict) ? '' : verdict)

const at = (cells: readonly string[], column: Column): number =>
  cells.findIndex((cell) => cell.trim().toLowerCase() === column.toLowerCase())
