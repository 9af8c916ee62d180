import { cell, choice, complain, complainOfTwins, customOf, list, type Reader, titleOf } from './cells.ts'
import { plainly } from './plain-word.ts'
import { importances } from '#core/cases/case.ts'
import { valueOf } from './value-words.ts'
import type { RequirementRead, SheetRow } from './shapes.ts'

/** A requirement a row; parents are found by id or title anywhere in the sheet. */
export function readRequirements(reader: Reader, rows: readonly SheetRow[]): RequirementRead[] {
  const names = new Map<string, number>()
  for (const field of ['id', 'title'])
    rows.forEach((row, index) => {
      const name = cell(reader, row, field).toLowerCase()
      if (name !== '' && !names.has(name)) names.set(name, index)
    })
  complainOfTwins(
    reader,
    rows.map((row) => ({ id: cell(reader, row, 'id'), row })),
  )
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
    kind: choice(reader, row, 'kind', 'Function'),
    component: cell(reader, row, 'component'),
    state: choice(reader, row, 'state', 'Draft'),
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

/** A grade of importance as a priority: what is critical comes first. */
const priorityOfImportance: Readonly<Record<string, number>> = { Critical: 1, High: 2, Medium: 3, Low: 4 }

/** `2`, `P2` or a word for it, the lowest being 5; `null` for anything else. */
export function priorityFrom(text: string): number | null {
  const number = /^p?([1-5])$/i.exec(text)?.[1]
  if (number) return Number(number)
  if (plainly(text) === 'lowest') return 5
  return priorityOfImportance[valueOf('importance', text, importances) ?? ''] ?? null
}

function priorityOf(reader: Reader, row: SheetRow): number | null {
  const known = priorityFrom(cell(reader, row, 'priority'))
  if (known !== null) return known
  const mapped = choice(reader, row, 'priority', '')
  return mapped === '' ? null : Number(mapped)
}

function gradeOf(reader: Reader, row: SheetRow, field: string): number | null {
  const text = cell(reader, row, field)
  if (text === '') return null
  if (/^[1-5]$/.test(text)) return Number(text)
  complain(reader, row, field, `“${text}” is not a grade from 1 to 5`)
  return null
}
