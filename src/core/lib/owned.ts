import { z } from 'zod'
import { markedIn } from './marked.ts'

/**
 * What an id in a request can stand for, with the word people know it by. Every one belongs to one project; that it is the
 * project in the address is checked once, for all endpoints, from the schemas that say `idOf`.
 */
export const owned = {
  attachment: 'file',
  attempt: 'attempt',
  build: 'build',
  case_template: 'template',
  case_version: 'version',
  checklist_item: 'checklist entry',
  custom_field: 'field',
  data_table: 'data table',
  data_table_row: 'data row',
  doubt_act: 'doubt',
  draft_model: 'model',
  draft_row: 'row of a model',
  environment: 'environment',
  folder: 'folder',
  import_act: 'import',
  import_mapping: 'mapping',
  item: 'item',
  installation: 'installation',
  iteration: 'iteration',
  link: 'link',
  notice: 'notice',
  outage: 'outage',
  plan: 'plan',
  plan_criterion: 'criterion',
  release: 'release',
  requirement: 'requirement',
  run: 'run',
  routine: 'routine',
  routine_version: 'version of a routine',
  saved_view: 'view',
  standing_import: 'standing import',
  step: 'step',
  suggestion: 'suggestion',
  suite: 'suite',
  suite_source: 'source',
  test_case: 'case',
  verdict_kind: 'verdict',
  what_if: 'what-if',
  calendar_address: 'calendar address',
  verdict_reason: 'reason',
  defect: 'defect',
} as const
export type Owned = keyof typeof owned
type OwnedOrPerson = Owned | 'person'

const mark = 'x-owned'

/** The id of an object of the project in the address. */
export const idOf = (of: Owned) =>
  z
    .number()
    .int()
    .positive()
    .meta({ [mark]: of })
/** Chosen objects; more than `most` are refused in words. */
export const idsOf = (of: Owned, most: number) => chosen(idOf(of), most)
export const chosen = <T extends z.ZodType>(each: T, most: number) =>
  z
    .array(each)
    .min(1, 'nothing is chosen')
    .max(most, `are more than ${most.toLocaleString('en-GB')}; choose fewer at a time`)
/** An id as part of a path. */
export const idInPath = (of: Owned) =>
  z.coerce
    .number()
    .int()
    .positive()
    .meta({ [mark]: of })
/** One of the people of the project. */
export const memberId = z
  .string()
  .max(60)
  .meta({ [mark]: 'person' })

export interface NamedId {
  readonly of: OwnedOrPerson
  readonly id: string | number
  /** Where it stands, such as `targets.0.release`. */
  readonly at: string
}

/** The ids that stand in `value`, which `schema` has accepted, each with what it is the id of. */
export const idsIn = (schema: z.core.$ZodType, value: unknown, at: readonly string[] = []): readonly NamedId[] =>
  markedIn(schema, value, mark, at).map(({ said, value: id, path }) =>
    said === 'person'
      ? { of: 'person', id: String(id), at: path.join('.') }
      : { of: isOwned(said) ? said : never(said), id: Number(id), at: path.join('.') },
  )

const isOwned = (said: string): said is Owned => said in owned
function never(said: string): never {
  throw new Error(`a schema speaks of the id of a ${said}`)
}
