import { int, rowOf } from '#db/rows.ts'
import { sql } from 'drizzle-orm'
import type { VersionContent } from '#core/cases/steps.ts'
import type { Tx } from '#db/open.ts'
import type { CaseStored } from './cases.ts'

export interface BulkCase extends Pick<
  CaseStored,
  | 'number'
  | 'position'
  | 'title'
  | 'objective'
  | 'folderId'
  | 'importance'
  | 'component'
  | 'estimate'
  | 'ownerId'
  | 'automation'
  | 'type'
  | 'deletedAt'
> {
  readonly content: VersionContent
  readonly fingerprint: string
}

/** The next id of a table, which nobody else can take while this transaction is open. */
const nextId = (tx: Tx, table: 'test_case' | 'case_version' | 'step'): number =>
  (rowOf(tx, { seq: int }, sql`select seq from sqlite_sequence where name = ${table}`)?.seq ?? 0) + 1

/**
 * Many new cases with what they say, by a statement a table instead of one a row: an import of thousands is several times
 * faster so. Answers their ids in order.
 */
export function addCases(
  tx: Tx,
  projectId: number,
  cases: readonly BulkCase[],
  by: { now: number; personId: string | null },
): number[] {
  const first = { case: nextId(tx, 'test_case'), version: nextId(tx, 'case_version'), step: nextId(tx, 'step') }
  insertCases(tx, projectId, cases.map(caseValues(first)), by)
  insertContents(tx, stepValues(cases, first), rowValues(cases, first))
  return cases.map((_, index) => first.case + index)
}

/** The first ids of what is added. */
interface First {
  readonly case: number
  readonly version: number
  readonly step: number
}
type Values = readonly (readonly unknown[])[]

const caseValues = (first: First) => (each: BulkCase, index: number) => [
  first.case + index,
  each.number,
  each.folderId,
  each.position,
  each.title,
  each.objective,
  each.type,
  each.component,
  each.importance,
  each.ownerId,
  each.automation,
  each.estimate,
  each.content.steps.length,
  each.deletedAt,
  first.version + index,
  each.fingerprint,
  each.content.preconditions,
  JSON.stringify(each.content.parameters),
]

function stepValues(cases: readonly BulkCase[], first: First): Values {
  let id = first.step
  return cases.flatMap(({ content }, index) =>
    content.steps.map(({ action, expected, data }, at) => [
      id++,
      first.case + index,
      first.version + index,
      at + 1,
      action,
      expected,
      data,
    ]),
  )
}

const rowValues = (cases: readonly BulkCase[], first: First): Values =>
  cases.flatMap(({ content }, index) =>
    content.rows.map((values, at) => [first.version + index, at + 1, JSON.stringify(values)]),
  )

const from = (values: Values) => sql`json_each(${JSON.stringify(values)}) j`
const columns = (indexes: readonly number[]) =>
  sql.join(
    indexes.map((index) => sql.raw(`j.value ->> ${index}`)),
    sql`, `,
  )

function insertCases(tx: Tx, projectId: number, own: Values, by: { now: number; personId: string | null }): void {
  tx.run(sql`
    insert into test_case (
        id, number, folder_id, position, title, objective, type, component, importance, owner_id, automation,
        estimate, steps, deleted_at, project_id, created_at, updated_at
      )
    select ${columns([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13])}, ${projectId}, ${by.now}, ${by.now}
    from ${from(own)}`)
  tx.run(
    sql`
      insert into case_version (id, case_id, fingerprint, preconditions, parameters, created_at, created_by)
      select ${columns([14, 0, 15, 16, 17])}, ${by.now}, ${by.personId}
      from ${from(own)}`,
  )
}

function insertContents(tx: Tx, steps: Values, rows: Values): void {
  if (steps.length > 0) {
    tx.run(sql`insert into step (id, case_id) select ${columns([0, 1])} from ${from(steps)}`)
    tx.run(
      sql`
        insert into version_step (version_id, position, step_id, action, expected, data)
        select ${columns([2, 3, 0, 4, 5, 6])}
        from ${from(steps)}`,
    )
  }
  if (rows.length > 0)
    tx.run(sql`insert into data_row (version_id, "row", "values") select ${columns([0, 1, 2])} from ${from(rows)}`)
}
