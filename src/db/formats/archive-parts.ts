import { type SQL, sql } from 'drizzle-orm'

/** What a column points at: a table, a person, or whatever another column of the row says. */
type Ref = string | { readonly by: string }
/** A text in which ids stand, with each told by `number`. */
type Renumbered = (text: string, number: (table: string, id: number) => unknown) => string

export interface Part {
  readonly table: string
  readonly where: (project: number) => SQL
  readonly refs: Readonly<Record<string, Ref>>
  readonly order: string
  /** Columns that name ids within a text, with how they are told anew. */
  readonly within?: Readonly<Record<string, Renumbered>>
  /** It has an id of its own that others point at. */
  readonly id?: true
}

const stepTexts = ['action', 'expected', 'data', 'use_values'] as const
/** Columns that hold rich text, or JSON with rich text in it: cleaned on the way in like what people write; plain text is left as it is. */
export const richColumns: Readonly<Record<string, readonly string[]>> = {
  requirement: ['text'],
  requirement_revision: ['text'],
  test_case: ['objective'],
  case_version: ['preconditions'],
  version_step: stepTexts,
  routine: ['objective'],
  routine_step: stepTexts,
  case_template: ['content'],
  suggestion: ['content'],
  suite: ['objective'],
  plan: ['objective'],
  plan_part: ['text'],
  defect: ['text'],
  attempt_step: ['comment'],
  comment: ['text'],
}

const ofProject = (project: number): SQL => sql`project_id = ${project}`
const inside =
  (column: string, table: string, where: (project: number) => SQL) =>
  (project: number): SQL =>
    sql`${sql.raw(column)} in (select id from ${sql.raw(`"${table}"`)} where ${where(project)})`
const live = (project: number): SQL => sql`project_id = ${project} and deleted_at is not 1`
const cases = inside('case_id', 'test_case', live)
const shown = (project: number): SQL => sql`${cases(project)} and (major is null or major >= 0)`
const ofVersion = inside('version_id', 'case_version', shown)
const ofRoutine = inside('routine_id', 'routine', ofProject)
const uses = { use_routine_version_id: 'routine_version', use_case_version_id: 'case_version' } as const
const part = (
  table: string,
  where: Part['where'],
  refs: Part['refs'],
  order = 'id',
  within: NonNullable<Part['within']> = {},
): Part => ({
  table,
  where,
  refs,
  order,
  within,
  ...(order === 'id' && { id: true as const }),
})
/** Own fields that a filter asks for, also one in an address. */
const fieldsWithin: Renumbered = (text, number) =>
  text.replace(/(own(?::|%3A))(\d+)/g, (all, name: string, id: string) => {
    const told = number('custom_field', Number(id))
    return told === null ? all : `${name}${String(told)}`
  })
const numbersWithin =
  (table: string): Renumbered =>
  (text, number) =>
    text.replace(/(?<=^\[|,)\d+(?=,|\]$)/g, (id) => (id === '0' ? id : String(number(table, Number(id)) ?? 0)))
const branchWithin: Renumbered = (text, number) =>
  text.replace(/(?<="branch":)\d+/, (id) => String(number('requirement', Number(id)) ?? 'null'))
/** Numbers in the list of requirements of what a build touches. */
const requirementsWithin: Renumbered = (text, number) =>
  text.replace(/(?<="requirements":\[)[\d,]*/, (ids) =>
    ids
      .split(',')
      .flatMap((id) => (id === '' ? [] : (number('requirement', Number(id)) ?? [])))
      .join(),
  )
const casesWithin: Renumbered = (text, number) =>
  text.replace(/(?<="case":)\d+/g, (id) => String(number('test_case', Number(id)) ?? 0))
const owner = { owner_id: { by: 'owner_kind' } } as const

/** Every table of a project, in an order in which each points mostly at what is before it. */
export const parts: readonly Part[] = [
  part('membership', ofProject, { person_id: 'person' }, 'person_id'),
  part('release', ofProject, {}),
  part('iteration', inside('release_id', 'release', ofProject), { release_id: 'release' }),
  part('build', ofProject, { release_id: 'release' }, 'id', { touches: requirementsWithin }),
  part('environment', ofProject, { owner_id: 'person' }),
  part(
    'environment_value',
    inside('environment_id', 'environment', ofProject),
    { environment_id: 'environment' },
    'environment_id, factor',
  ),
  part('outage', ofProject, { environment_id: 'environment', person_id: 'person' }),
  part('installation', ofProject, { environment_id: 'environment', build_id: 'build', person_id: 'person' }),
  part('holiday', ofProject, {}),
  part('verdict_kind', ofProject, {}),
  part('verdict_reason', ofProject, {}),
  part('policy', ofProject, {}),
  part('counter', ofProject, {}, 'prefix'),
  part('custom_field', ofProject, {}),
  part('saved_view', ofProject, { owner_id: 'person' }, 'id', { query: fieldsWithin }),
  part('requirement', live, { parent_id: 'requirement', owner_id: 'person' }),
  part(
    'requirement_revision',
    inside('requirement_id', 'requirement', live),
    { requirement_id: 'requirement', person_id: 'person' },
    'requirement_id, revision',
  ),
  part(
    'requirement_target',
    inside('requirement_id', 'requirement', live),
    { requirement_id: 'requirement', release_id: 'release', iteration_id: 'iteration' },
    'requirement_id, release_id',
  ),
  part('requirement_relation', ofProject, { from_id: 'requirement', to_id: 'requirement' }),
  part('folder', ofProject, { parent_id: 'folder' }),
  part('test_case', live, {
    folder_id: 'folder',
    owner_id: 'person',
    newest_version_id: 'case_version',
    approved_version_id: 'case_version',
    merged_into_id: 'test_case',
    from_release_id: 'release',
    from_iteration_id: 'iteration',
  }),
  part('routine', ofProject, { newest_version_id: 'routine_version' }),
  part('routine_version', ofRoutine, { routine_id: 'routine', created_by: 'person' }),
  part('data_table', ofProject, {}),
  part('data_table_row', inside('table_id', 'data_table', ofProject), {
    table_id: 'data_table',
    held_by: 'person',
    held_attempt_id: 'attempt',
  }),
  part('data_row_use', inside('row_id', 'data_table_row', inside('table_id', 'data_table', ofProject)), {
    row_id: 'data_table_row',
    environment_id: 'environment',
    attempt_id: 'attempt',
  }),
  part('case_version', shown, {
    case_id: 'test_case',
    table_id: 'data_table',
    created_by: 'person',
    approved_by: 'person',
  }),
  part('step', cases, { case_id: 'test_case', within_step_id: 'step', inner_step_id: 'step' }),
  part('case_need', ofVersion, { version_id: 'case_version', case_id: 'test_case' }, 'version_id, case_id'),
  part(
    'routine_step',
    inside('version_id', 'routine_version', ofRoutine),
    { version_id: 'routine_version', ...uses },
    'version_id, position',
  ),
  part('version_step', ofVersion, { version_id: 'case_version', step_id: 'step', ...uses }, 'version_id, position'),
  part('case_template', ofProject, { person_id: 'person' }),
  part('suggestion', ofProject, {
    case_id: 'test_case',
    version_id: 'case_version',
    person_id: 'person',
    decided_by: 'person',
  }),
  part('review_asked', ofProject, {
    case_id: 'test_case',
    version_id: 'case_version',
    asked_by: 'person',
    person_id: 'person',
  }),
  part('data_row', ofVersion, { version_id: 'case_version' }, 'version_id, "row"'),
  part('link', (project) => sql`project_id = ${project} and ${cases(project)}`, {
    requirement_id: 'requirement',
    case_id: 'test_case',
    step_id: 'step',
    confirmed_version_id: 'case_version',
    person_id: 'person',
  }),
  part(
    'custom_value',
    inside('field_id', 'custom_field', ofProject),
    { field_id: 'custom_field', owner_id: { by: '(field)' }, person: 'person' },
    'field_id, owner_id, position',
  ),
  part('tagging', ofProject, owner, 'owner_kind, owner_id, tag'),
  part('import_origin', ofProject, owner, 'owner_kind, source, outside_id'),
  part('import_mapping', ofProject, { person_id: 'person' }),
  part('standing_import', ofProject, { person_id: 'person' }),
  part('outside_copy', ofProject, {}, 'ref'),
  part('draft_model', ofProject, { requirement_id: 'requirement', updated_by: 'person' }),
  part('draft_model_revision', inside('model_id', 'draft_model', ofProject), {
    model_id: 'draft_model',
    person_id: 'person',
  }),
  part('draft_row', ofProject, { model_id: 'draft_model', case_id: 'test_case', person_id: 'person' }),
  part('checklist_item', ofProject, { requirement_id: 'requirement', case_id: 'test_case', done_by: 'person' }),
  part('suite', ofProject, {}),
  part(
    'suite_pin',
    inside('suite_id', 'suite', ofProject),
    { suite_id: 'suite', case_id: 'test_case' },
    'suite_id, case_id',
  ),
  part('suite_source', ofProject, { suite_id: 'suite', requirement_id: 'requirement', included_id: 'suite' }, 'id', {
    filter: fieldsWithin,
    frozen: casesWithin,
  }),
  part(
    'suite_exclusion',
    inside('suite_id', 'suite', ofProject),
    { suite_id: 'suite', case_id: 'test_case', person_id: 'person' },
    'suite_id, case_id',
  ),
  part(
    'suite_place',
    inside('suite_id', 'suite', ofProject),
    { suite_id: 'suite', case_id: 'test_case' },
    'suite_id, case_id',
  ),
  part(
    'suite_member',
    inside('suite_id', 'suite', ofProject),
    { suite_id: 'suite', case_id: 'test_case', from_by: 'person', until_by: 'person' },
    'id',
    { sources: numbersWithin('suite_source') },
  ),
  part('plan', ofProject, { release_id: 'release', iteration_id: 'iteration', frozen_version_id: 'plan_version' }),
  part('plan_version', ofProject, { plan_id: 'plan', person_id: 'person' }),
  part(
    'plan_version_slot',
    inside('version_id', 'plan_version', ofProject),
    { version_id: 'plan_version', case_id: 'test_case' },
    'version_id, case_id, place',
    { environments: numbersWithin('environment') },
  ),
  part(
    'plan_signature',
    inside('version_id', 'plan_version', ofProject),
    { version_id: 'plan_version', person_id: 'person' },
    'version_id, person_id',
  ),
  part('plan_suite', inside('plan_id', 'plan', ofProject), { plan_id: 'plan', suite_id: 'suite' }, 'plan_id, suite_id'),
  part(
    'plan_environment',
    inside('plan_id', 'plan', ofProject),
    { plan_id: 'plan', environment_id: 'environment' },
    'plan_id, environment_id',
  ),
  part(
    'plan_ask',
    inside('plan_id', 'plan', ofProject),
    { plan_id: 'plan', suite_id: 'suite', requirement_id: 'requirement', case_id: 'test_case' },
    'plan_id, about, suite_id, requirement_id, case_id',
    { environments: numbersWithin('environment') },
  ),
  part(
    'plan_deal',
    inside('plan_id', 'plan', ofProject),
    { plan_id: 'plan', case_id: 'test_case', environment_id: 'environment' },
    'plan_id, case_id',
  ),
  part('plan_part', inside('plan_id', 'plan', ofProject), { plan_id: 'plan' }, 'plan_id, part'),
  part('plan_risk', ofProject, { plan_id: 'plan' }),
  part('plan_risk_answer', inside('risk_id', 'plan_risk', ofProject), {
    risk_id: 'plan_risk',
    requirement_id: 'requirement',
    case_id: 'test_case',
  }),
  part(
    'plan_branch',
    inside('plan_id', 'plan', ofProject),
    { plan_id: 'plan', requirement_id: 'requirement' },
    'plan_id, requirement_id',
  ),
  part(
    'plan_person',
    inside('plan_id', 'plan', ofProject),
    { plan_id: 'plan', person_id: 'person' },
    'plan_id, person_id',
  ),
  part('plan_milestone', ofProject, { plan_id: 'plan' }),
  part('plan_criterion', ofProject, { plan_id: 'plan', waived_by: 'person' }, 'id', { rule: branchWithin }),
  part('run', ofProject, { plan_id: 'plan', release_id: 'release', build_id: 'build', policy_id: 'policy' }),
  part('run_person', inside('run_id', 'run', ofProject), { run_id: 'run', person_id: 'person' }, 'run_id, person_id'),
  part('run_suite', inside('run_id', 'run', ofProject), { run_id: 'run', suite_id: 'suite' }, 'run_id, suite_id'),
  part('item', inside('run_id', 'run', ofProject), {
    run_id: 'run',
    case_id: 'test_case',
    environment_id: 'environment',
    assignee_id: 'person',
    attempt_id: 'attempt',
  }),
  part('item_wait', inside('item_id', 'item', inside('run_id', 'run', ofProject)), {
    item_id: 'item',
    defect_id: 'defect',
    other_item_id: 'item',
    person_id: 'person',
  }),
  part(
    'item_place',
    inside('item_id', 'item', inside('run_id', 'run', ofProject)),
    { item_id: 'item', person_id: 'person' },
    'item_id',
  ),
  part('what_if', inside('run_id', 'run', ofProject), { run_id: 'run', person_id: 'person' }),
  part(
    'what_if_person',
    inside('what_if_id', 'what_if', inside('run_id', 'run', ofProject)),
    { what_if_id: 'what_if', person_id: 'person' },
    'what_if_id, person_id',
  ),
  part(
    'what_if_environment',
    inside('what_if_id', 'what_if', inside('run_id', 'run', ofProject)),
    { what_if_id: 'what_if', environment_id: 'environment' },
    'what_if_id, environment_id',
  ),
  part('doubt_act', ofProject, { person_id: 'person', lifted_by_id: 'person' }),
  part('attempt', ofProject, {
    case_id: 'test_case',
    version_id: 'case_version',
    environment_id: 'environment',
    build_id: 'build',
    expected_build_id: 'build',
    item_id: 'item',
    person_id: 'person',
    policy_id: 'policy',
    doubt_id: 'doubt_act',
  }),
  part('attempt_row', inside('attempt_id', 'attempt', ofProject), { attempt_id: 'attempt' }, 'attempt_id, "row"'),
  part(
    'attempt_step',
    inside('attempt_id', 'attempt', ofProject),
    { attempt_id: 'attempt', step_id: 'step' },
    'attempt_id, "row", step_id',
  ),
  part('verdict_event', inside('attempt_id', 'attempt', ofProject), {
    attempt_id: 'attempt',
    person_id: 'person',
    undoes: 'verdict_event',
  }),
  part(
    'standing_result',
    cases,
    {
      build_id: 'build',
      case_id: 'test_case',
      environment_id: 'environment',
      attempt_id: 'attempt',
      disputed_by: 'attempt',
    },
    'build_id, case_id, environment_id',
  ),
  part('quarantine', cases, { case_id: 'test_case', environment_id: 'environment', person_id: 'person' }),
  part('defect', ofProject, {
    found_in_build_id: 'build',
    fixed_in_build_id: 'build',
    environment_id: 'environment',
    owner_id: 'person',
    reporter_id: 'person',
  }),
  part('defect_state_at', inside('defect_id', 'defect', ofProject), {
    defect_id: 'defect',
    fixed_in_build_id: 'build',
    person_id: 'person',
  }),
  part('defect_link', inside('defect_id', 'defect', ofProject), {
    defect_id: 'defect',
    attempt_id: 'attempt',
    step_id: 'step',
    item_id: 'item',
    case_id: 'test_case',
    requirement_id: 'requirement',
  }),
  part('attachment', ofProject, { ...owner, step_id: 'step', person_id: 'person' }),
  part('comment', ofProject, { ...owner, step_id: 'step', person_id: 'person' }),
  part('notice', ofProject, { person_id: 'person', from_id: 'person' }),
  part('alias', ofProject, { owner_id: { by: 'kind' } }, 'key'),
  part('change', ofProject, { owner_id: { by: 'kind' }, person_id: 'person' }),
]

export const archiveTables: readonly string[] = ['person', ...parts.map(({ table }) => table)]

export const tableOfKind: Readonly<Record<string, string>> = {
  requirement: 'requirement',
  case: 'test_case',
  defect: 'defect',
  run: 'run',
  plan: 'plan',
  suite: 'suite',
  attempt: 'attempt',
  item: 'item',
  build: 'build',
  environment: 'environment',
  release: 'release',
  iteration: 'iteration',
  folder: 'folder',
  field: 'custom_field',
  mapping: 'import_mapping',
  routine: 'routine',
  table: 'data_table',
}
