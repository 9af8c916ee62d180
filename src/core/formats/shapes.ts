import { groupBy } from '#core/lib/group.ts'
import type { importances } from '#core/cases/case.ts'
import type { StepText } from '#core/cases/steps.ts'
import type { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'

/** A place in a file and what is wrong there. */
export interface Problem {
  /** `row 12, column C` of a sheet (counted from 1, as a spreadsheet shows them), `line 7` of a text, or an identifier. */
  readonly at: string
  readonly message: string
}

/** A row of a sheet; what is empty at the end may be left out. */
export interface SheetRow {
  /** Where the row stands in the file, counted from 1. */
  readonly line: number
  readonly cells: readonly string[]
}
export interface Sheet {
  readonly name: string
  readonly rows: readonly SheetRow[]
}

export interface RequirementRead {
  /** Where it stands in the file. */
  readonly row: number
  /** What it is called outside, or its key here (RQ-12): a later import finds it again by this. */
  readonly id: string
  readonly title: string
  readonly text: string
  /** Index of the parent among the requirements read, or what to look for in the project. */
  readonly parent: number | { readonly named: string } | null
  readonly likelihood: number | null
  readonly impact: number | null
  /** 1 comes first, 5 last. */
  readonly priority: number | null
  readonly release: string
  readonly iteration: string
  readonly reference: string
  readonly kind: (typeof requirementKinds)[number]
  readonly component: string
  readonly state: (typeof requirementStates)[number]
  readonly owner: string
  readonly tags: readonly string[]
  /** Values of the project's own fields, by their names. */
  readonly custom: Readonly<Record<string, string>>
}

export interface CaseRead {
  readonly row: number
  readonly id: string
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
  readonly automation: 'Manual' | 'Candidate' | 'Automated'
  readonly tags: readonly string[]
  readonly custom: Readonly<Record<string, string>>
  readonly steps: readonly StepText[]
  readonly parameters: readonly string[]
  readonly rows: readonly Readonly<Record<string, string>>[]
}

/** A tie between two requirements of a file, such as a relation of ReqIF; by their ids. */
export interface RelationRead {
  readonly from: string
  readonly to: string
  readonly kind: string
}

/** A word of a field with fixed values that is none of them. */
export interface UnknownWord {
  readonly field: string
  readonly word: string
  readonly rows: number
  /** Where it stands first. */
  readonly first: string
  /** What it is read as until somebody says what it stands for. */
  readonly usual: string
}

/** A column that holds something and is not read. */
export interface UnreadColumn {
  readonly sheet: string
  readonly column: string
  readonly header: string
  /** How many of its cells are filled. */
  readonly cells: number
  /** The first different ones. */
  readonly values: readonly string[]
}

/** What a file of any format says, before anything is stored. */
export interface FileRead {
  readonly requirements: readonly RequirementRead[]
  readonly cases: readonly CaseRead[]
  readonly relations: readonly RelationRead[]
  readonly problems: readonly Problem[]
  /** What was read with a loss, or repaired: told, not a hindrance. */
  readonly notices: readonly Problem[]
  /** Texts of requirements are rich text already; all others are plain. */
  readonly rich: boolean
  /** Fields the file names; an update of what is there already leaves all others alone. */
  readonly fields: readonly string[]
  readonly unknown: readonly UnknownWord[]
  readonly unread: readonly UnreadColumn[]
}

/** What a format that knows all of a requirement names, beside the fields of the project's own. */
export const requirementFields = [
  'id',
  'title',
  'text',
  'parent',
  'kind',
  'component',
  'state',
  'likelihood',
  'impact',
  'priority',
  'release',
  'iteration',
  'reference',
  'owner',
  'tags',
]

export const nothingRead: FileRead = {
  requirements: [],
  cases: [],
  relations: [],
  problems: [],
  notices: [],
  rich: false,
  fields: [],
  unknown: [],
  unread: [],
}

export const plainRequirement: Omit<RequirementRead, 'row' | 'title'> = {
  id: '',
  text: '',
  parent: null,
  likelihood: null,
  impact: null,
  priority: null,
  release: '',
  iteration: '',
  reference: '',
  kind: 'Function',
  component: '',
  state: 'Draft',
  owner: '',
  tags: [],
  custom: {},
}
export const plainCase: Omit<CaseRead, 'row' | 'title'> = {
  id: '',
  objective: '',
  preconditions: '',
  importance: 'Medium',
  type: '',
  component: '',
  folder: [],
  requirements: [],
  estimate: null,
  owner: '',
  automation: 'Manual',
  tags: [],
  custom: {},
  steps: [],
  parameters: [],
  rows: [],
}

/** Indexes of the requirements below each one; those with no parent in the file stand under `null`. */
export const childIndexes = (requirements: readonly RequirementRead[]): Map<number | null, number[]> =>
  groupBy(requirements.keys(), (index) => {
    const parent = requirements[index]?.parent
    return typeof parent === 'number' ? parent : null
  })
