import { automations, importances } from '#core/cases/case.ts'
import { parametersIn, type StepText, stepLines } from '#core/cases/steps.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { columnName } from './columns.ts'
import { readRows } from './data-rows.ts'
import { depthOf, fieldsByColumn, type Mapping, numberedLines } from './mapping.ts'
import {
  type CaseRead,
  type FileRead,
  nothingRead,
  plainCase,
  plainRequirement,
  type Problem,
  type RequirementRead,
  type Sheet,
  type SheetRow,
} from './shapes.ts'

/** Reads the rows of a sheet as requirements or as cases. Problems name their cell; nothing is guessed over them. */
export function readSheet(mapping: Mapping, sheet: Sheet): FileRead {
  const fields = fieldsByColumn(mapping)
  const reader: Reader = {
    at: new Map(fields.flatMap((field, index) => (field === null ? [] : [[field, index] as const]))),
    problems: [],
  }
  const rows = sheet.rows.filter(({ line, cells }) => line >= mapping.first && cells.some((cell) => cell.trim() !== ''))
  const named = [...reader.at.keys()]
  const told = (read: Partial<FileRead>): FileRead => ({
    ...nothingRead,
    ...read,
    problems: reader.problems,
    fields: named,
  })
  if (mapping.layout === 'an outline by indent')
    return {
      ...told(readOutline(reader, mapping, rows)),
      fields: mapping.what === 'cases' ? ['title', 'folder', 'action', 'expected', 'data'] : ['title', 'parent'],
    }
  if (!reader.at.has('title')) {
    const headers = sheet.rows.find(({ line }) => line === mapping.header)?.cells ?? []
    return {
      ...nothingRead,
      problems: [
        {
          at: `row ${mapping.header ?? mapping.first}`,
          message: `no column is read as the title; the headers are ${headers
            .slice(0, 8)
            .map((cell) => `“${cell.slice(0, 40)}”`)
            .join(', ')}`,
        },
      ],
    }
  }
  if (mapping.what === 'requirements') return told({ requirements: readRequirements(reader, rows) })
  return told({ cases: readCases(reader, mapping, rows) })
}

/** Rows that have not as many cells as the header: in a file of separated values something is quoted wrongly there. */
export function raggedRows(mapping: Mapping, sheet: Sheet): Problem[] {
  const width = sheet.rows.find(({ line }) => line === mapping.header)?.cells.length
  if (width === undefined) return []
  return sheet.rows
    .filter(({ line, cells }) => line >= mapping.first && cells.length !== width)
    .map(({ line, cells }) => ({
      at: `row ${line}`,
      message: `has ${cells.length} cells where the header has ${width}`,
    }))
}

interface Reader {
  readonly at: ReadonlyMap<string, number>
  readonly problems: Problem[]
}

const cell = (reader: Reader, row: SheetRow, field: string): string => {
  const index = reader.at.get(field)
  return index === undefined ? '' : (row.cells[index] ?? '').trim()
}

function complain(reader: Reader, row: SheetRow, field: string, message: string): void {
  const index = reader.at.get(field)
  reader.problems.push({
    at: index === undefined ? `row ${row.line}` : `row ${row.line}, column ${columnName(index)}`,
    message,
  })
}

function choice<T extends string>(
  reader: Reader,
  row: SheetRow,
  of: { field: string; choices: readonly T[]; usual: T },
): T {
  const text = cell(reader, row, of.field)
  if (text === '') return of.usual
  const known = of.choices.find((each) => each.toLowerCase() === text.toLowerCase())
  if (known) return known
  complain(reader, row, of.field, `“${text.slice(0, 60)}” is none of ${of.choices.join(', ')}`)
  return of.usual
}

const list = (reader: Reader, row: SheetRow, field: string, by: RegExp): string[] =>
  cell(reader, row, field)
    .split(by)
    .map((part) => part.trim())
    .filter((part) => part !== '')

function titleOf(reader: Reader, row: SheetRow, title: string): string {
  if (title === '') complain(reader, row, 'title', 'has no title')
  if (title.length > 300) complain(reader, row, 'title', 'is longer than 300 characters')
  return title.replace(/\s+/g, ' ')
}

function customOf(reader: Reader, row: SheetRow): Record<string, string> {
  return Object.fromEntries(
    [...reader.at.keys()]
      .filter((field) => field.startsWith('custom:'))
      .map((field) => [field.slice('custom:'.length), cell(reader, row, field)]),
  )
}

function readRequirements(reader: Reader, rows: readonly SheetRow[]): RequirementRead[] {
  const names = new Map<string, number>()
  for (const field of ['id', 'title'])
    rows.forEach((row, index) => {
      const name = cell(reader, row, field).toLowerCase()
      if (name !== '' && !names.has(name)) names.set(name, index)
    })
  return rows.map((row, index) => ({
    row: row.line,
    id: cell(reader, row, 'id'),
    title: titleOf(reader, row, cell(reader, row, 'title')),
    text: cell(reader, row, 'text'),
    parent: parentOf(reader, row, index, names),
    ...riskOf(reader, row),
    priority: priorityOf(reader, row),
    release: cell(reader, row, 'release'),
    iteration: cell(reader, row, 'iteration'),
    reference: cell(reader, row, 'reference'),
    kind: choice(reader, row, { field: 'kind', choices: requirementKinds, usual: 'Function' }),
    component: cell(reader, row, 'component'),
    state: choice(reader, row, { field: 'state', choices: requirementStates, usual: 'Draft' }),
    owner: cell(reader, row, 'owner'),
    tags: list(reader, row, 'tags', /[,;]/),
    custom: customOf(reader, row),
  }))
}

function parentOf(
  reader: Reader,
  row: SheetRow,
  index: number,
  names: ReadonlyMap<string, number>,
): RequirementRead['parent'] {
  const named = cell(reader, row, 'parent')
  if (named === '') return null
  const at = names.get(named.toLowerCase())
  if (at === index) complain(reader, row, 'parent', 'names itself as its parent')
  return at === undefined || at === index ? { named } : at
}

/** `4x5`, `4 × 5`, or a product such as 20 that is split as evenly as the grades 1–5 allow; `null` for anything else. */
export function riskFrom(risk: string): { likelihood: number; impact: number } | null {
  const pair = /^([1-5])\s*[x×*]\s*([1-5])$/i.exec(risk)
  if (pair) return { likelihood: Number(pair[1]), impact: Number(pair[2]) }
  const product = /^\d{1,2}$/.test(risk) ? Number(risk) : NaN
  return product >= 1
    ? ([5, 4, 3, 2, 1]
        .flatMap((impact) =>
          product % impact === 0 && product / impact <= impact ? [{ likelihood: product / impact, impact }] : [],
        )
        .at(-1) ?? null)
    : null
}

function riskOf(reader: Reader, row: SheetRow): { likelihood: number | null; impact: number | null } {
  const risk = cell(reader, row, 'risk')
  if (risk === '') return { likelihood: gradeOf(reader, row, 'likelihood'), impact: gradeOf(reader, row, 'impact') }
  const read = riskFrom(risk)
  if (!read)
    complain(reader, row, 'risk', `“${risk}” is no risk; write likelihood × impact such as 4x5, or their product`)
  return read ?? { likelihood: null, impact: null }
}

const priorityWords: readonly (readonly string[])[] = [
  ['critical', 'urgent', 'highest'],
  ['high'],
  ['medium', 'normal'],
  ['low'],
  ['lowest'],
]

/** `2`, `P2` or a word for it; `null` for anything else. */
export function priorityFrom(text: string): number | null {
  const number = /^p?([1-5])$/i.exec(text)?.[1]
  const word = priorityWords.findIndex((words) => words.includes(text.toLowerCase()))
  return number ? Number(number) : word < 0 ? null : word + 1
}

function priorityOf(reader: Reader, row: SheetRow): number | null {
  const text = cell(reader, row, 'priority')
  const priority = priorityFrom(text)
  if (text !== '' && priority === null)
    complain(reader, row, 'priority', `“${text.slice(0, 60)}” is no priority; write 1 (first) to 5 (last)`)
  return priority
}

function gradeOf(reader: Reader, row: SheetRow, field: string): number | null {
  const text = cell(reader, row, field)
  if (text === '') return null
  if (/^[1-5]$/.test(text)) return Number(text)
  complain(reader, row, field, `“${text}” is not a grade from 1 to 5`)
  return null
}

type Growing = Omit<CaseRead, 'steps' | 'requirements' | 'tags' | 'parameters'> & {
  steps: StepText[]
  requirements: string[]
  tags: string[]
}

/** A case begins where its title or id is filled in with another one, and goes on where that is empty or repeated. */
function readCases(reader: Reader, mapping: Mapping, rows: readonly SheetRow[]): CaseRead[] {
  const cases: Growing[] = []
  const inOneCell = mapping.layout === 'steps in one cell'
  for (const row of rows) {
    const [title, id] = [cell(reader, row, 'title'), cell(reader, row, 'id')]
    const last = cases.at(-1)
    const begins =
      inOneCell ||
      (mapping.begins === 'id'
        ? id !== '' && id !== last?.id
        : title !== '' && title.replace(/\s+/g, ' ') !== last?.title)
    if (begins) cases.push({ ...caseOf(reader, row, title, id), steps: [], requirements: [], tags: [] })
    const own = cases.at(-1)
    if (!own) {
      complain(reader, row, 'title', 'has a step but no case above it')
      continue
    }
    own.requirements.push(
      ...list(reader, row, 'requirement', /[,;\s]+/).filter((each) => !own.requirements.includes(each)),
    )
    own.tags.push(...list(reader, row, 'tags', /[,;]/).filter((each) => !own.tags.includes(each)))
    own.steps.push(...(inOneCell ? cellSteps(reader, row) : rowStep(reader, row)))
  }
  return cases.map((each) => ({
    ...each,
    parameters: [...new Set([...parametersIn(each), ...each.rows.flatMap((row) => Object.keys(row))])],
  }))
}

function rowStep(reader: Reader, row: SheetRow): StepText[] {
  const step = {
    id: null,
    action: cell(reader, row, 'action'),
    expected: cell(reader, row, 'expected'),
    data: cell(reader, row, 'data'),
  }
  return step.action !== '' || step.expected !== '' || step.data !== '' ? [step] : []
}

/** Numbered lists side by side; a text that is no list belongs to the first action, or to the last expected result. */
function cellSteps(reader: Reader, row: SheetRow): StepText[] {
  const texts = {
    action: cell(reader, row, 'action'),
    expected: cell(reader, row, 'expected'),
    data: cell(reader, row, 'data'),
  }
  const parts = {
    action: numberedLines(texts.action),
    expected: numberedLines(texts.expected),
    data: numberedLines(texts.data),
  }
  const count = Math.max(
    parts.action.length,
    parts.expected.length,
    parts.data.length,
    ...Object.values(texts).map((text) => (text === '' ? 0 : 1)),
  )
  const at = (field: 'action' | 'expected' | 'data', index: number, whole: number): string =>
    parts[field].length > 0 ? (parts[field][index] ?? '') : index === whole ? texts[field] : ''
  return Array.from({ length: count }, (_, index) => ({
    id: null,
    action: at('action', index, 0),
    expected: at('expected', index, count - 1),
    data: at('data', index, 0),
  }))
}

function caseOf(
  reader: Reader,
  row: SheetRow,
  title: string,
  id: string,
): Omit<CaseRead, 'steps' | 'requirements' | 'tags' | 'parameters'> {
  const estimate = cell(reader, row, 'estimate')
  if (estimate !== '' && !/^[1-9]\d{0,3}$/.test(estimate))
    complain(reader, row, 'estimate', `“${estimate}” is not a number of minutes`)
  const rows = readRows(cell(reader, row, 'rows'))
  if (typeof rows === 'string') complain(reader, row, 'rows', rows)
  return {
    row: row.line,
    id,
    title: titleOf(reader, row, title),
    objective: cell(reader, row, 'objective'),
    preconditions: cell(reader, row, 'preconditions'),
    importance: choice(reader, row, { field: 'importance', choices: importances, usual: 'Medium' }),
    type: cell(reader, row, 'type'),
    component: cell(reader, row, 'component'),
    folder: list(reader, row, 'folder', /\s*[/>›]\s*/),
    estimate: /^[1-9]\d{0,3}$/.test(estimate) ? Number(estimate) : null,
    owner: cell(reader, row, 'owner'),
    automation: choice(reader, row, { field: 'automation', choices: automations, usual: 'Manual' }),
    custom: customOf(reader, row),
    rows: typeof rows === 'string' ? [] : rows,
  }
}

interface Branch {
  readonly row: SheetRow
  readonly title: string
  readonly rest: readonly string[]
  readonly below: Branch[]
}

/** Lines by their indent: what has only leaves below it is a case with steps, what is above is its folder; or an outline of requirements. */
function readOutline(reader: Reader, mapping: Mapping, rows: readonly SheetRow[]): Partial<FileRead> {
  const top: Branch[] = []
  const open: { depth: number; branch: Branch }[] = []
  const all: { branch: Branch; parent: Branch | null }[] = []
  for (const row of rows) {
    const depth = depthOf(row)
    while (open.length > 0 && (open.at(-1)?.depth ?? 0) >= depth) open.pop()
    const at = row.cells.findIndex((each) => each.trim() !== '')
    const branch: Branch = {
      row,
      title: (row.cells[at] ?? '').trim(),
      rest: row.cells.slice(at + 1).map((each) => each.trim()),
      below: [],
    }
    const parent = open.at(-1)?.branch ?? null
    ;(parent?.below ?? top).push(branch)
    all.push({ branch, parent })
    open.push({ depth, branch })
  }
  if (mapping.what === 'requirements') {
    const index = new Map(all.map(({ branch }, at) => [branch, at]))
    return {
      requirements: all.map(({ branch, parent }) => ({
        ...plainRequirement,
        row: branch.row.line,
        title: titleOf(reader, branch.row, branch.title),
        text: branch.rest.filter((each) => each !== '').join(' '),
        parent: parent ? (index.get(parent) ?? null) : null,
      })),
    }
  }
  const cases = (branches: readonly Branch[], folder: readonly string[]): CaseRead[] =>
    branches.flatMap((branch) => {
      if (branch.below.some(({ below }) => below.length > 0)) return cases(branch.below, [...folder, branch.title])
      const steps = branch.below.flatMap(stepOf)
      return [
        {
          ...plainCase,
          row: branch.row.line,
          title: titleOf(reader, branch.row, branch.title),
          folder,
          steps,
          parameters: parametersIn({ preconditions: '', steps }),
        },
      ]
    })
  return { cases: cases(top, []) }
}

function stepOf({ title, rest }: Branch): StepText[] {
  const [expected = '', data = ''] = rest
  return expected === '' && data === '' ? stepLines(title) : [{ id: null, action: title, expected, data }]
}
