import { int, rowOf, rowsOf, text } from '#db/rows.ts'
import { type SQL, sql } from 'drizzle-orm'
import type { Db, Tx } from '#db/open.ts'

/** What a column points at: a table, a person, or whatever another column of the row says. */
type Ref = string | { readonly by: string }
interface Part {
  readonly table: string
  readonly where: (project: number) => SQL
  readonly refs: Readonly<Record<string, Ref>>
  readonly order: string
  /** It has an id of its own that others point at. */
  readonly id?: true
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
const part = (table: string, where: Part['where'], refs: Part['refs'], order = 'id'): Part => ({
  table,
  where,
  refs,
  order,
  ...(order === 'id' && { id: true as const }),
})
const owner = { owner_id: { by: 'owner_kind' } } as const

/** Every table of a project, in an order in which each points mostly at what is before it. */
const parts: readonly Part[] = [
  part('membership', ofProject, { person_id: 'person' }, 'person_id'),
  part('release', ofProject, {}),
  part('iteration', inside('release_id', 'release', ofProject), { release_id: 'release' }),
  part('build', ofProject, { release_id: 'release' }),
  part('environment', ofProject, {}),
  part(
    'environment_value',
    inside('environment_id', 'environment', ofProject),
    { environment_id: 'environment' },
    'environment_id, factor',
  ),
  part('verdict_kind', ofProject, {}),
  part('counter', ofProject, {}, 'prefix'),
  part('saved_view', ofProject, { owner_id: 'person' }),
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
  }),
  part('routine', ofProject, { newest_version_id: 'routine_version' }),
  part('routine_version', ofRoutine, { routine_id: 'routine', created_by: 'person' }),
  part('data_table', ofProject, {}),
  part('data_table_row', inside('table_id', 'data_table', ofProject), {
    table_id: 'data_table',
    held_by: 'person',
    held_attempt_id: 'attempt',
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
  part('custom_field', ofProject, {}),
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
  part('plan', ofProject, { release_id: 'release', iteration_id: 'iteration' }),
  part('plan_suite', inside('plan_id', 'plan', ofProject), { plan_id: 'plan', suite_id: 'suite' }, 'plan_id, suite_id'),
  part(
    'plan_environment',
    inside('plan_id', 'plan', ofProject),
    { plan_id: 'plan', environment_id: 'environment' },
    'plan_id, environment_id',
  ),
  part('run', ofProject, { plan_id: 'plan', release_id: 'release', build_id: 'build' }),
  part('run_person', inside('run_id', 'run', ofProject), { run_id: 'run', person_id: 'person' }, 'run_id, person_id'),
  part('item', inside('run_id', 'run', ofProject), {
    run_id: 'run',
    case_id: 'test_case',
    environment_id: 'environment',
    assignee_id: 'person',
    attempt_id: 'attempt',
  }),
  part('attempt', ofProject, {
    case_id: 'test_case',
    version_id: 'case_version',
    environment_id: 'environment',
    build_id: 'build',
    item_id: 'item',
    person_id: 'person',
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

const tableOfKind: Readonly<Record<string, string>> = {
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

type Row = Record<string, unknown>
export interface ArchiveManifest {
  readonly format: 'rovant-archive'
  readonly version: 1
  readonly project: Row
}

/** What can be read of a project, a table at a time: rows with numbers of the archive's own instead of ids, counted from 1 in every table. */
export function dumpProject(
  tx: Tx,
  projectId: number,
): {
  readonly manifest: ArchiveManifest
  readonly tables: Iterable<{ table: string; rows: Row[] }>
  readonly attachments: readonly string[]
} {
  const project =
    tx.get<Row>(
      sql`select name, product, time_zone, working_days, freshness_days, approval_required, reason_asked, created_at from project where id = ${projectId}`,
    ) ?? {}
  const persons = rowsOf(
    tx,
    { id: text, name: text, email: text },
    sql`select id, name, email from person where id in (${sql.join(personColumns(projectId), sql` union `)}) order by email`,
  )
  const numbers = new Map<string, Map<unknown, number>>([
    ['person', new Map(persons.map(({ id }, index) => [id, index + 1]))],
  ])
  for (const { table, where, id } of parts)
    if (id)
      numbers.set(
        table,
        new Map(
          rowsOf(tx, { id: int }, sql`select id from ${name(table)} where ${where(projectId)} order by id`).map(
            (row, index) => [row.id, index + 1],
          ),
        ),
      )
  const owners = fieldOwners(tx, projectId)
  function* tables(): Iterable<{ table: string; rows: Row[] }> {
    yield { table: 'person', rows: persons.map(({ name: who, email }) => ({ name: who, email })) }
    for (const each of parts)
      yield {
        table: each.table,
        rows: tx
          .all<Row>(
            sql`select * from ${name(each.table)} where ${each.where(projectId)} order by ${sql.raw(each.order)}`,
          )
          .map((row) => moved(each, row, (table, value) => numbers.get(table)?.get(value) ?? null, owners)),
      }
  }
  return {
    manifest: { format: 'rovant-archive', version: 1, project },
    tables: tables(),
    attachments: rowsOf(
      tx,
      { hash: text },
      sql`select distinct hash from attachment where project_id = ${projectId} order by 1`,
    ).map(({ hash }) => hash),
  }
}

const name = (table: string): SQL => sql.raw(`"${table}"`)

/** A select per column that names a person. */
function personColumns(projectId: number): SQL[] {
  return parts.flatMap(({ table, where, refs }) =>
    Object.entries(refs)
      .filter(([, ref]) => ref === 'person')
      .map(
        ([column]) =>
          sql`select ${sql.raw(column)} from ${name(table)} where ${where(projectId)} and ${sql.raw(column)} is not null`,
      ),
  )
}

const fieldOwners = (tx: Tx, projectId: number): ReadonlyMap<unknown, string> =>
  new Map(
    rowsOf(
      tx,
      { id: int, kind: text },
      sql`select id, owner_kind as kind from custom_field where project_id = ${projectId}`,
    ).map(({ id, kind }) => [id, kind]),
  )

/** A row with everything it points at told by `number`. */
function moved(
  of: Part,
  row: Row,
  number: (table: string, value: unknown) => unknown,
  owners: ReadonlyMap<unknown, string>,
): Row {
  const next: Row = { ...row }
  delete next['project_id']
  for (const [column, ref] of Object.entries(of.refs)) {
    const value = row[column]
    if (value === null || value === undefined) continue
    const kind =
      typeof ref === 'string' ? null : ref.by === '(field)' ? (owners.get(row['field_id']) ?? '') : String(row[ref.by])
    const table = typeof ref === 'string' ? ref : (tableOfKind[kind ?? ''] ?? '')
    next[column] = number(table, value) ?? (column === 'owner_id' && typeof ref !== 'string' ? 0 : null)
  }
  if (of.id) next['id'] = number(of.table, row['id'])
  if (of.table === 'change' && /^\d+$/.test(String(row['ref'])))
    next['ref'] = String(number(row['kind'] === 'build' ? 'build' : 'item', Number(row['ref'])) ?? row['ref'])
  if (of.table === 'verdict_event')
    next['change'] = JSON.stringify(stepsMoved(JSON.parse(String(row['change'])), (value) => number('step', value)))
  return next
}

/** The marks within an event name steps. */
function stepsMoved(value: unknown, number: (value: unknown) => unknown): unknown {
  if (Array.isArray(value)) return value.map((each) => stepsMoved(each, number))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value).map(([key, own]) => [
      key,
      key === 'step' && typeof own === 'number' ? number(own) : stepsMoved(own, number),
    ]),
  )
}

/** Puts an archive's tables into a new project. People are found by their e-mail address; who is not here comes as a name that cannot sign in. */
export function loadProject(
  db: Db,
  key: string,
  manifest: ArchiveManifest,
  tables: ReadonlyMap<string, readonly Row[]>,
  newPerson: () => string,
): { readonly rows: number } {
  return db.transaction(
    (tx) => {
      tx.run(sql`pragma defer_foreign_keys = on`)
      const own = manifest.project
      tx.run(
        sql`insert into project (key, name, product, time_zone, working_days, freshness_days, approval_required, reason_asked, created_at) values (${key}, ${String(own['name'])}, ${String(own['product'])}, ${String(own['time_zone'])}, ${String(own['working_days'])}, ${Number(own['freshness_days'])}, ${Number(own['approval_required'])}, ${Number(own['reason_asked'] ?? 0)}, ${Number(own['created_at'])})`,
      )
      const projectId = rowOf(tx, { id: int }, sql`select id from project where key = ${key}`)?.id ?? 0
      const people = (tables.get('person') ?? []).map((row) =>
        personOf(tx, String(row['name']), String(row['email']), newPerson),
      )
      const offsets = new Map(
        parts
          .filter(({ id }) => id)
          .map(({ table }) => [
            table,
            rowOf(tx, { seq: int }, sql`select seq from sqlite_sequence where name = ${table}`)?.seq ?? 0,
          ]),
      )
      const number = (table: string, value: unknown): unknown =>
        table === 'person'
          ? (people[Number(value) - 1] ?? null)
          : offsets.has(table)
            ? (offsets.get(table) ?? 0) + Number(value)
            : null
      const owners = new Map((tables.get('custom_field') ?? []).map((row) => [row['id'], String(row['owner_kind'])]))
      let rows = people.length
      for (const each of parts)
        rows += insertRows(tx, each, {
          projectId,
          key,
          rows: (tables.get(each.table) ?? []).map((row) => moved(each, row, number, owners)),
        })
      return { rows }
    },
    { behavior: 'immediate' },
  )
}

function personOf(tx: Tx, who: string, email: string, newPerson: () => string): string {
  const known = rowOf(tx, { id: text }, sql`select id from person where email = ${email}`)
  if (known) return known.id
  const id = newPerson()
  tx.run(
    sql`insert into person (id, name, email, email_verified, administrator, created_at, updated_at) values (${id}, ${who}, ${email}, 1, 0, 0, 0)`,
  )
  return id
}

function insertRows(tx: Tx, of: Part, into: { projectId: number; key: string; rows: readonly Row[] }): number {
  const known = new Set(
    rowsOf(tx, { name: text }, sql`select name from pragma_table_info(${of.table})`).map((column) => column.name),
  )
  const columns = [...new Set(into.rows.flatMap((row) => Object.keys(row)))].filter(
    (column) => known.has(column) && column !== 'project_id',
  )
  const list = [...columns, ...(known.has('project_id') ? ['project_id'] : [])]
  for (let from = 0; from < into.rows.length; from += 500) {
    const chunk = into.rows
      .slice(from, from + 500)
      .map((row) =>
        columns.map((column) =>
          of.table === 'verdict_event' && column === 'client_id' ? clientOf(tx, row, into.key) : (row[column] ?? null),
        ),
      )
    tx.run(
      sql`insert into ${name(of.table)} (${sql.raw(list.map((column) => `"${column}"`).join(', '))}) select ${sql.raw(columns.map((_, index) => `j.value ->> ${index}`).join(', '))}${known.has('project_id') ? sql`, ${into.projectId}` : sql``} from json_each(${JSON.stringify(chunk)}) j`,
    )
  }
  return into.rows.length
}

/** Events are told apart by their client over the whole installation: beside the project they came from they get the new key before it. */
const clientOf = (tx: Tx, row: Row, key: string): string =>
  tx.get(
    sql`select 1 as one from verdict_event where client_id = ${String(row['client_id'])} and sequence = ${Number(row['sequence'])}`,
  ) === undefined
    ? String(row['client_id'])
    : `${key}:${String(row['client_id'])}`
