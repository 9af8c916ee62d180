import { parametersIn, type StepText, stepLines } from '#core/cases/steps.ts'
import { type Reader, titleOf } from './cells.ts'
import { depthOf } from './guess-mapping.ts'
import type { What } from './columns.ts'
import { type CaseRead, type FileRead, plainCase, plainRequirement, type SheetRow } from './shapes.ts'

interface Branch {
  readonly row: SheetRow
  readonly title: string
  readonly rest: readonly string[]
  readonly below: Branch[]
}

/** Lines by their indent: what has only leaves below it is a case with steps, what is above is its folder; or an outline of requirements. */
export function readOutline(reader: Reader, what: What, rows: readonly SheetRow[]): Partial<FileRead> {
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
  if (what === 'requirements') {
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
