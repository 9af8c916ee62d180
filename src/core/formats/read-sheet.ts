import { importances } from '#core/cases/case.ts'
import type { StepText } from '#core/cases/steps.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { columnName, mapColumns, type What } from './columns.ts'

export interface Problem {
  /** `row 12, column C`: rows count from 1 with the header, as a spreadsheet shows them. */
  readonly at: string
  readonly message: string
}
export interface SheetRow {
  /** Where the row stands in the file, counted from 1. */
  readonly line: number
  readonly cells: readonly string[]
}
export interface RequirementRead {
  readonly row: number
  readonly title: string
  readonly text: string
  /** Index of the parent among the requirements read, or what to look for in the project. */
  readonly parent: number | { readonly named: string } | null
  readonly likelihood: number | null
  readonly impact: number | null
  readonly release: string
  readonly iteration: string
  readonly reference: string
  readonly kind: (typeof requirementKinds)[number]
  readonly component: string
  readonly state: (typeof requirementStates)[number]
  readonly owner: string
}
export interface CaseRead {
  readonly row: number
  readonly title: string
  readonly objective: string
  readonly preconditions: string
  readonly importance: (typeof importances)[number]
  readonly type: string
  readonly component: string
  readonly folder: readonly string[]
  readonly requirements: readonly string[]
  readonly estimate: number | null
  readonly owner: string
  readonly steps: readonly StepText[]
}
export interface SheetRead {
  readonly what: What
  readonly columns: readonly { readonly header: string; readonly field: string | null }[]
  readonly requirements: readonly RequirementRead[]
  readonly cases: readonly CaseRead[]
  readonly problems: readonly Problem[]
}

/** Reads a sheet's rows as requirements or as cases, a row a step. Problems name their cell; nothing is guessed over them. */
export function readSheet(what: What, header: SheetRow, rows: readonly SheetRow[]): SheetRead {
  const fields = mapColumns(what, header.cells)
  const columns = header.cells.map((name, index) => ({ header: name, field: fields[index] ?? null }))
  const ragged = rows.filter(({ cells }) => cells.length !== header.cells.length)
    .map(({ line, cells }) => ({ at: `row ${line}`, message: `has ${cells.length} cells where the header has ${header.cells.length}` }))
  const reader = { fields, problems: [...ragged] }
  const empty = { what, columns, requirements: [], cases: [] }
  if (!fields.includes('title')) return { ...empty, problems: [{ at: `row ${header.line}`, message: `no column is headed “title”; the headers read are ${header.cells.slice(0, 8).map((cell) => `“${cell}”`).join(', ')}` }] }
  const filled = rows.filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  if (what === 'requirements') {
    const requirements = readRequirements(reader, filled)
    return { ...empty, requirements, problems: reader.problems }
  }
  const cases = readCases(reader, filled)
  return { ...empty, cases, problems: reader.problems }
}

interface Reader {
  readonly fields: readonly (string | null)[]
  readonly problems: Problem[]
}

const cell = (reader: Reader, row: SheetRow, field: string): string => {
  const index = reader.fields.indexOf(field)
  return index < 0 ? '' : (row.cells[index] ?? '').trim()
}

function complain(reader: Reader, row: SheetRow, field: string, message: string): void {
  const index = reader.fields.indexOf(field)
  reader.problems.push({ at: index < 0 ? `row ${row.line}` : `row ${row.line}, column ${columnName(index)}`, message })
}

function choice<T extends string>(reader: Reader, row: SheetRow, of: { field: string; choices: readonly T[]; usual: T }): T {
  const text = cell(reader, row, of.field)
  if (text === '') return of.usual
  const known = of.choices.find((each) => each.toLowerCase() === text.toLowerCase())
  if (known) return known
  complain(reader, row, of.field, `“${text}” is none of ${of.choices.join(', ')}`)
  return of.usual
}

function readRequirements(reader: Reader, rows: readonly SheetRow[]): RequirementRead[] {
  const names = new Map<string, number>()
  rows.forEach((row, index) => {
    for (const name of [cell(reader, row, 'id'), cell(reader, row, 'title')]) if (name !== '' && !names.has(name.toLowerCase())) names.set(name.toLowerCase(), index)
  })
  return rows.map((row, index) => {
    const title = cell(reader, row, 'title')
    if (title === '') complain(reader, row, 'title', 'has no title')
    if (title.length > 300) complain(reader, row, 'title', 'is longer than 300 characters')
    return {
      row: row.line, title, text: cell(reader, row, 'text'), parent: parentOf(reader, row, index, names), ...riskOf(reader, row), release: cell(reader, row, 'release'), iteration: cell(reader, row, 'iteration'), reference: cell(reader, row, 'reference'),
      kind: choice(reader, row, { field: 'kind', choices: requirementKinds, usual: 'Function' }), component: cell(reader, row, 'component'), state: choice(reader, row, { field: 'state', choices: requirementStates, usual: 'Draft' }), owner: cell(reader, row, 'owner'),
    }
  })
}

function parentOf(reader: Reader, row: SheetRow, index: number, names: ReadonlyMap<string, number>): RequirementRead['parent'] {
  const named = cell(reader, row, 'parent')
  if (named === '') return null
  const at = names.get(named.toLowerCase())
  if (at === index) complain(reader, row, 'parent', 'names itself as its parent')
  return at === undefined || at === index ? { named } : at
}

/** `4x5`, `4 × 5`, or a product such as 20 that is split as evenly as the grades 1–5 allow; or two columns of grades. */
function riskOf(reader: Reader, row: SheetRow): { likelihood: number | null; impact: number | null } {
  const risk = cell(reader, row, 'risk')
  if (risk === '') return { likelihood: gradeOf(reader, row, 'likelihood'), impact: gradeOf(reader, row, 'impact') }
  const pair = /^([1-5])\s*[x×*]\s*([1-5])$/i.exec(risk)
  if (pair) return { likelihood: Number(pair[1]), impact: Number(pair[2]) }
  const product = /^\d{1,2}$/.test(risk) ? Number(risk) : NaN
  const split = [5, 4, 3, 2, 1].flatMap((impact) => (product % impact === 0 && product / impact <= impact ? [{ likelihood: product / impact, impact }] : [])).at(-1)
  if (product >= 1 && split) return split
  complain(reader, row, 'risk', `“${risk}” is no risk; write likelihood × impact such as 4x5, or their product`)
  return { likelihood: null, impact: null }
}

function gradeOf(reader: Reader, row: SheetRow, field: string): number | null {
  const text = cell(reader, row, field)
  if (text === '') return null
  if (/^[1-5]$/.test(text)) return Number(text)
  complain(reader, row, field, `“${text}” is not a grade from 1 to 5`)
  return null
}

/** A row a step: a case begins where the title is filled in with another one, and goes on where it is empty or repeated. */
function readCases(reader: Reader, rows: readonly SheetRow[]): CaseRead[] {
  const cases: (Omit<CaseRead, 'steps'> & { steps: StepText[] })[] = []
  for (const row of rows) {
    const title = cell(reader, row, 'title')
    const last = cases.at(-1)
    if (title === '' && !last) complain(reader, row, 'title', 'has a step but no case above it')
    if (title !== '' && title !== last?.title) cases.push({ ...caseOf(reader, row, title), steps: [] })
    const step = { id: null, action: cell(reader, row, 'action'), expected: cell(reader, row, 'expected'), data: cell(reader, row, 'data') }
    if (step.action !== '' || step.expected !== '') cases.at(-1)?.steps.push(step)
  }
  return cases
}

function caseOf(reader: Reader, row: SheetRow, title: string): Omit<CaseRead, 'steps'> {
  if (title.length > 300) complain(reader, row, 'title', 'is longer than 300 characters')
  const estimate = cell(reader, row, 'estimate')
  if (estimate !== '' && !/^[1-9]\d{0,3}$/.test(estimate)) complain(reader, row, 'estimate', `“${estimate}” is not a number of minutes`)
  const list = (field: string, by: RegExp) => cell(reader, row, field).split(by).map((part) => part.trim()).filter((part) => part !== '')
  return {
    row: row.line, title, objective: cell(reader, row, 'objective'), preconditions: cell(reader, row, 'preconditions'), importance: choice(reader, row, { field: 'importance', choices: importances, usual: 'Medium' }), type: cell(reader, row, 'type'), component: cell(reader, row, 'component'),
    folder: list('folder', /[/>›]/), requirements: list('requirement', /[,;\s]+/), estimate: /^[1-9]\d{0,3}$/.test(estimate) ? Number(estimate) : null, owner: cell(reader, row, 'owner'),
  }
}
