import { writeRows } from './data-rows.ts'
import type { CaseRead, RequirementRead } from './shapes.ts'

/** Columns of a sheet of requirements, in their order, with what each holds. */
const requirementColumns = {
  Id: ({ id }: RequirementRead) => id,
  Title: ({ title }) => title,
  Text: ({ text }) => text,
  Parent: (_, parent) => parent,
  Kind: ({ kind }) => kind,
  Component: ({ component }) => component,
  State: ({ state }) => state,
  Likelihood: ({ likelihood }) => (likelihood === null ? '' : String(likelihood)),
  Impact: ({ impact }) => (impact === null ? '' : String(impact)),
  Priority: ({ priority }) => (priority === null ? '' : String(priority)),
  Release: ({ release }) => release,
  Iteration: ({ iteration }) => iteration,
  'Outside reference': ({ reference }) => reference,
  Owner: ({ owner }) => owner,
  Tags: ({ tags }) => tags.join(', '),
} satisfies Readonly<Record<string, (of: RequirementRead, parent: string) => string>>

const caseColumns = {
  Id: ({ id }: CaseRead) => id,
  Case: ({ title }) => title,
  Folder: ({ folder }) => folder.join(' / '),
  Objective: ({ objective }) => objective,
  Preconditions: ({ preconditions }) => preconditions,
  Importance: ({ importance }) => importance,
  Type: ({ type }) => type,
  Component: ({ component }) => component,
  Owner: ({ owner }) => owner,
  Estimate: ({ estimate }) => (estimate === null ? '' : String(estimate)),
  Automation: ({ automation }) => automation,
  Requirements: ({ requirements }) => requirements.join(', '),
  Tags: ({ tags }) => tags.join(', '),
  'Data rows': ({ parameters, rows }) => writeRows(parameters, rows),
} satisfies Readonly<Record<string, (of: CaseRead) => string>>

/** Requirements as a table with its header; parents are named by their ids, or their titles where they have none. */
export function requirementTable(requirements: readonly RequirementRead[], custom: readonly string[]): string[][] {
  const nameOf = (parent: RequirementRead['parent']): string => {
    if (parent === null) return ''
    if (typeof parent === 'object') return parent.named
    const own = requirements[parent]
    return own ? own.id || own.title : ''
  }
  const columns: Readonly<Record<string, (of: RequirementRead, parent: string) => string>> = requirementColumns
  return [
    [...Object.keys(columns), ...custom],
    ...requirements.map((each) => [
      ...Object.values(columns).map((read) => read(each, nameOf(each.parent))),
      ...custom.map((name) => each.custom[name] ?? ''),
    ]),
  ]
}

/** Cases as a table, a row a step with its number: what belongs to the case stands on its first row, its id and title on every one. */
export function caseTable(cases: readonly CaseRead[], custom: readonly string[]): string[][] {
  const columns: Readonly<Record<string, (of: CaseRead) => string>> = caseColumns
  const names = Object.keys(columns)
  const rows = cases.flatMap((each) => {
    const own = [...Object.values(columns).map((read) => read(each)), ...custom.map((name) => each.custom[name] ?? '')]
    const again = own.map((value, index) => (names[index] === 'Id' || names[index] === 'Case' ? value : ''))
    const steps = each.steps.length > 0 ? each.steps : [null]
    return steps.map((step, index) => [
      ...(index === 0 ? own : again),
      step ? String(index + 1) : '',
      step?.action ?? '',
      step?.expected ?? '',
      step?.data ?? '',
    ])
  })
  return [[...names, ...custom, 'Step no', 'Action', 'Expected', 'Data'], ...rows]
}
