import { parametersIn, type StepText } from '#core/cases/steps.ts'
import { minutesIn } from '#core/lib/figures.ts'
import { cell, choice, complain, complainOfTwins, customOf, list, mention, type Reader, titleOf } from './cells.ts'
import { type CellTexts, cellSteps } from './cell-steps.ts'
import { isWhole } from './contents.ts'
import { readRows } from './data-rows.ts'
import type { SheetMapping } from './mapping.ts'
import type { CaseRead, SheetRow } from './shapes.ts'

type Growing = Omit<CaseRead, 'steps' | 'requirements' | 'tags' | 'parameters'> & {
  steps: StepText[]
  requirements: string[]
  tags: string[]
}

/** Where a row stands to the case above it. */
interface Above {
  readonly own: Growing
  readonly folder: string
  /** The number of its last step, where steps are numbered. */
  readonly number: number | null
}

/**
 * A case begins where its title, its id or its folder is filled in with another one, or the numbers of its steps begin again; it goes
 * on where they are empty or repeated.
 */
export function readCases(reader: Reader, mapping: SheetMapping, rows: readonly SheetRow[]): CaseRead[] {
  const cases: Growing[] = []
  const firsts: { id: string; row: SheetRow }[] = []
  const inOneCell = mapping.layout === 'steps in one cell'
  let above: Above | null = null
  for (const row of rows) {
    const folder = cell(reader, row, 'folder')
    const number = numberOf(reader, row)
    const begins = inOneCell || (beginsCase(reader, mapping, row, above) && namesCase(reader, row, above))
    if (begins) {
      const title: string = cell(reader, row, 'title') || (above?.own.title ?? '')
      const own: Growing = {
        ...caseOf(reader, row, title, cell(reader, row, 'id')),
        steps: [],
        requirements: [],
        tags: [],
      }
      cases.push(own)
      firsts.push({ id: own.id, row })
      above = { own, folder, number }
    }
    if (!above) {
      complain(reader, row, 'title', 'has a step but no case above it')
      continue
    }
    goOn(reader, row, above, { inOneCell, begins })
    above = { own: above.own, folder: folder || above.folder, number: number ?? above.number }
  }
  complainOfTwins(reader, firsts)
  return cases.map((each) => ({
    ...each,
    parameters: [...new Set([...parametersIn(each), ...each.rows.flatMap((row) => Object.keys(row))])],
  }))
}

const numberOf = (reader: Reader, row: SheetRow): number | null => {
  const text = cell(reader, row, 'number')
  return isWhole(text) ? Number.parseInt(text, 10) : null
}

function beginsCase(reader: Reader, mapping: SheetMapping, row: SheetRow, above: Above | null): boolean {
  const [title, id, folder] = ['title', 'id', 'folder'].map((field) => cell(reader, row, field))
  if (!above) return title !== '' || id !== ''
  const number = numberOf(reader, row)
  const byId = mapping.begins === 'id'
  if (byId && id !== '') return id !== above.own.id
  return (
    (title !== '' && title?.replace(/\s+/g, ' ') !== above.own.title) ||
    (folder !== '' && folder !== above.folder) ||
    (number !== null && above.number !== null && number < above.number && number <= 1)
  )
}

/** Steps that begin again without a word of another case go on with the one above, and that is told. */
function namesCase(reader: Reader, row: SheetRow, above: Above | null): boolean {
  if (!above || cell(reader, row, 'title') !== '' || cell(reader, row, 'id') !== '') return true
  mention(reader, row, 'number', 'begins again without a title; it is read as going on with the case above')
  return false
}

/** What a row adds to its case. */
function goOn(
  reader: Reader,
  row: SheetRow,
  { own, number }: Above,
  { inOneCell, begins }: { inOneCell: boolean; begins: boolean },
): void {
  const title = cell(reader, row, 'title').replace(/\s+/g, ' ')
  if (title !== '' && title !== own.title)
    mention(
      reader,
      row,
      'title',
      `“${title.slice(0, 60)}” stands beside the id of “${own.title.slice(0, 60)}”; it is read as going on with it`,
    )
  own.requirements.push(
    ...list(reader, row, 'requirement', /[,;\s、，；]+/).filter((each) => !own.requirements.includes(each)),
  )
  own.tags.push(...list(reader, row, 'tags', /[,;、，；]/).filter((each) => !own.tags.includes(each)))
  const step = stepTexts(reader, row)
  const empty = step.action === '' && step.expected === '' && step.data === ''
  if (inOneCell) {
    const { steps, told } = cellSteps(step)
    for (const message of told) mention(reader, row, 'expected', message)
    own.steps.push(...steps)
    return
  }
  if (empty) {
    if (!begins) mention(reader, row, 'action', 'holds nothing of a step; nothing is read from it')
    return
  }
  const last = own.steps.at(-1)
  const ownNumber = numberOf(reader, row)
  if (last && !begins && step.action === '' && step.data === '' && (ownNumber === null || ownNumber === number))
    own.steps[own.steps.length - 1] = {
      ...last,
      expected: last.expected === '' ? step.expected : `${last.expected}\n${step.expected}`,
    }
  else own.steps.push({ id: null, ...step })
}

const stepTexts = (reader: Reader, row: SheetRow): CellTexts => ({
  action: cell(reader, row, 'action'),
  expected: cell(reader, row, 'expected'),
  data: cell(reader, row, 'data'),
})

function caseOf(
  reader: Reader,
  row: SheetRow,
  title: string,
  id: string,
): Omit<CaseRead, 'steps' | 'requirements' | 'tags' | 'parameters'> {
  const estimate = cell(reader, row, 'estimate')
  const minutes = minutesIn(estimate)
  if (minutes === undefined) complain(reader, row, 'estimate', `“${estimate}” is not a number of minutes`)
  const rows = readRows(cell(reader, row, 'rows'))
  if (typeof rows === 'string') complain(reader, row, 'rows', rows)
  return {
    row: row.line,
    id,
    title: titleOf(reader, row, title),
    objective: cell(reader, row, 'objective'),
    preconditions: cell(reader, row, 'preconditions'),
    importance: choice(reader, row, 'importance', 'Medium'),
    type: cell(reader, row, 'type'),
    component: cell(reader, row, 'component'),
    folder: list(reader, row, 'folder', /\s*[/>›＞]\s*/),
    estimate: minutes ?? null,
    owner: cell(reader, row, 'owner'),
    automation: choice(reader, row, 'automation', 'Manual'),
    custom: customOf(reader, row),
    rows: typeof rows === 'string' ? [] : rows,
  }
}
