import { textsIn, valuesIn } from '#db/json.ts'
import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { importances, automations } from '#core/cases/case.ts'
import { requirementStates } from '#core/requirements/requirement.ts'
import { keyOf } from '#core/lib/key.ts'
import { keySql } from '#db/key-sql.ts'
import { sql } from 'drizzle-orm'
import {
  type CaseRead,
  plainCase,
  plainRequirement,
  type RelationRead,
  type RequirementRead,
} from '#core/formats/shapes.ts'
import type { VersionContent } from '#core/cases/steps.ts'
import { executedSteps, type OwnStep, stepShape, useRow, withUse } from '#db/cases/uses.ts'
import type { CustomField } from '#core/projects/custom.ts'
import { groupBy } from '#core/lib/group.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { tagsOf, valuesOf } from '#db/projects/fields.ts'

type Stored<T> = T & {
  readonly key: string
  readonly objectId: number
  readonly version: number
  readonly stamp: string
}

export type StoredRequirement = Stored<RequirementRead> & { readonly parentKey: string }

export interface StoredCase extends Stored<CaseRead>, Pick<VersionContent, 'needs' | 'environment' | 'table'> {
  /** Keys of the routines and cases its steps insert. */
  readonly inserted: readonly string[]
}

interface StoredOf {
  readonly ids: readonly number[]
  readonly custom: readonly CustomField[]
  readonly written: boolean
}

/**
 * Cases as a file would carry them, texts as they are stored (rich); in the order of `ids`. `written`: what steps insert is
 * written out, as a file has it; such steps have no identity of their own.
 */
export function storedCases(tx: Tx, projectId: number, of: StoredOf): StoredCase[] {
  const { ids, custom } = of
  const rows = caseRowsOf(tx, projectId, ids)
  const working = rows.map(({ workingId }) => workingId)
  const beside = {
    steps: stepsByVersion(tx, working),
    values: valuesByVersion(tx, working),
    links: requirementsByCase(tx, ids),
    tags: tagsOf(tx, 'case', ids),
    fields: valuesOf(tx, 'case', projectId, ids),
    folders: folderPaths(tx, projectId),
  }
  const byId = new Map(rows.map((row) => [row.objectId, row]))
  return ids.flatMap((id) => {
    const row = byId.get(id)
    if (!row) return []
    const steps = (beside.steps.get(row.workingId) ?? []).map(({ version: _, ...step }) => withUse(step))
    return [
      {
        ...plainCase,
        ...caseFieldsOf(row),
        folder: row.folderId === null ? [] : (beside.folders.get(row.folderId) ?? []),
        requirements: [...new Set((beside.links.get(id) ?? []).map(({ key }) => key))],
        inserted: [...new Set(steps.flatMap(({ use }) => use?.ref ?? []))],
        steps: of.written ? writtenOut(tx, steps) : [...steps],
        rows: (beside.values.get(row.workingId) ?? []).map(({ told }) => valuesIn(told)),
        tags: beside.tags.get(id) ?? [],
        custom: namedValues(beside.fields.get(id), custom),
      },
    ]
  })
}

const writtenOut = (tx: Tx, steps: readonly OwnStep[]) =>
  executedSteps(tx, steps).map(({ id, from, ...texts }) => ({ id: from === '' ? id : null, ...texts }))

type CaseRow = ReturnType<typeof caseRowsOf>[number]

/** What a case says of itself; what it does not say is left out. */
function caseFieldsOf({
  number,
  folderId: _,
  workingId: __,
  parameters,
  owner,
  environment,
  tableId,
  tableMode,
  tableName,
  needs,
  ...rest
}: CaseRow) {
  const key = keyOf('case', number)
  const before = textsIn(needs)
  const table = tableId === null || tableMode === null ? null : { id: tableId, name: tableName ?? '', mode: tableMode }
  return {
    ...rest,
    row: 0,
    id: key,
    key,
    owner: owner ?? '',
    parameters: textsIn(parameters),
    ...(before.length > 0 && { needs: before }),
    ...(environment !== '' && { environment }),
    ...(table && { table }),
  }
}

/** Cases with their working copies. */
const caseRowsOf = (tx: Tx, projectId: number, ids: readonly number[]) =>
  rowsOf(
    tx,
    {
      objectId: int,
      number: int,
      version: int,
      title: text,
      objective: text,
      type: text,
      component: text,
      importance: oneOf(importances),
      automation: oneOf(automations),
      estimate: maybe(int),
      owner: maybe(text),
      folderId: maybe(int),
      workingId: int,
      stamp: text,
      preconditions: text,
      parameters: text,
      environment: text,
      tableId: maybe(int),
      tableMode: maybe(oneOf(['each', 'one'])),
      tableName: maybe(text),
      needs: text,
    },
    sql`
      select c.id as objectId, c.number, c.version, c.title, c.objective, c.type, c.component, c.importance,
        c.automation, c.estimate, (select name from person where id = c.owner_id) as owner,
        c.folder_id as folderId, v.id as workingId, v.fingerprint as stamp, v.preconditions, v.parameters,
        v.environment, v.table_id as tableId, v.table_mode as tableMode,
        (select name from data_table where id = v.table_id) as tableName,
        (
          select json_group_array(${keySql('case', 'o.number')})
          from case_need n
          join test_case o on o.id = n.case_id
          where n.version_id = v.id
        ) as needs
      from test_case c
      join case_version v on v.case_id = c.id and v.major is null
      where c.project_id = ${projectId} and c.deleted_at is null and ${inIds(sql`c.id`, ids)}`,
  )

const stepsByVersion = (tx: Tx, working: readonly number[]) =>
  groupBy(
    rowsOf(
      tx,
      { ...stepShape, version: int },
      sql`
        select s.version_id as version, s.step_id as id, s.action, s.expected, s.data, ${useRow}
        from version_step s
        where ${inIds(sql`s.version_id`, working)}
        order by s.version_id, s.position`,
    ),
    ({ version }) => version,
  )

const valuesByVersion = (tx: Tx, working: readonly number[]) =>
  groupBy(
    rowsOf(
      tx,
      { version: int, told: text },
      sql`
        select version_id as version, "values" as told
        from data_row
        where ${inIds(sql`version_id`, working)}
        order by version_id, "row"`,
    ),
    ({ version }) => version,
  )

const requirementsByCase = (tx: Tx, ids: readonly number[]) =>
  groupBy(
    rowsOf(
      tx,
      { caseId: int, key: text },
      sql`
        select l.case_id as caseId, ${keySql('requirement', 'r.number')} as key
        from link l
        join requirement r on r.id = l.requirement_id
        where l.until_at is null and r.deleted_at is null and ${inIds(sql`l.case_id`, ids)}
        order by r.number`,
    ),
    ({ caseId }) => caseId,
  )

const namedValues = (
  values: Readonly<Record<string, readonly string[]>> | undefined,
  custom: readonly CustomField[],
): Record<string, string> =>
  Object.fromEntries(
    custom.flatMap(({ id, name }) => {
      const own = values?.[String(id)]
      return own ? [[name, own.join('; ')]] : []
    }),
  )

/** Folder → the names from the top down to it. */
function folderPaths(tx: Tx, projectId: number): Map<number, string[]> {
  const rows = rowsOf(
    tx,
    { id: int, parent: maybe(int), name: text },
    sql`select id, parent_id as parent, name from folder where project_id = ${projectId}`,
  )
  const byId = new Map(rows.map((row) => [row.id, row]))
  const path = (id: number | null, depth: number): string[] => {
    const own = id === null || depth > 50 ? undefined : byId.get(id)
    return own ? [...path(own.parent, depth + 1), own.name] : []
  }
  return new Map(rows.map(({ id }) => [id, path(id, 0)]))
}

/** Requirements as a file would carry them; a parent is an index where it is among them, else its key. */
export function storedRequirements(
  tx: Tx,
  projectId: number,
  ids: readonly number[],
  custom: readonly CustomField[],
): StoredRequirement[] {
  const rows = requirementRowsOf(tx, projectId, ids)
  const [tags, fields] = [tagsOf(tx, 'requirement', ids), valuesOf(tx, 'requirement', projectId, ids)]
  const byId = new Map(rows.map((row) => [row.objectId, row]))
  const shown = ids.filter((id) => byId.has(id))
  const at = new Map(shown.map((id, index) => [id, index]))
  const keys = keysOfParents(tx, rows)
  return shown.flatMap((id) => {
    const row = byId.get(id)
    if (!row) return []
    const { number, parentId, owner, release, iteration, ...rest } = row
    const parentKey = parentId === null ? '' : (keys.get(parentId) ?? '')
    const named = parentKey === '' ? null : { named: parentKey }
    const key = keyOf('requirement', number)
    return [
      {
        ...plainRequirement,
        ...rest,
        row: 0,
        stamp: '',
        parentKey,
        id: key,
        key,
        parent: parentId === null ? null : (at.get(parentId) ?? named),
        owner: owner ?? '',
        release: release ?? '',
        iteration: iteration ?? '',
        tags: tags.get(id) ?? [],
        custom: namedValues(fields.get(id), custom),
      },
    ]
  })
}

function keysOfParents(tx: Tx, rows: readonly { parentId: number | null }[]): ReadonlyMap<number, string> {
  const parents = rows.flatMap(({ parentId }) => parentId ?? [])
  const found = rowsOf(
    tx,
    { id: int, number: int },
    sql`select id, number from requirement where ${inIds(sql`id`, parents)}`,
  )
  return new Map(found.map(({ id, number }) => [id, keyOf('requirement', number)]))
}

/** Requirements with the first release they are testable from. */
const requirementRowsOf = (tx: Tx, projectId: number, ids: readonly number[]) =>
  rowsOf(
    tx,
    {
      objectId: int,
      number: int,
      parentId: maybe(int),
      version: int,
      title: text,
      text: text,
      kind: oneOf(['Function', 'Rule', 'Interface', 'Quality', 'Constraint']),
      component: text,
      state: oneOf(requirementStates),
      likelihood: maybe(int),
      impact: maybe(int),
      priority: maybe(int),
      reference: text,
      owner: maybe(text),
      release: maybe(text),
      iteration: maybe(text),
    },
    sql`
      select r.id as objectId, r.number, r.parent_id as parentId, r.version, r.title, r.text, r.kind,
        r.component, r.state, r.likelihood, r.impact, r.priority, r.outside_ref as reference,
        (select name from person where id = r.owner_id) as owner, e.name as "release", i.name as iteration
      from requirement r
      left join requirement_target t on t.requirement_id = r.id
        and t.release_id = (select min(t2.release_id) from requirement_target t2 where t2.requirement_id = r.id)
      left join "release" e on e.id = t.release_id
      left join iteration i on i.id = t.iteration_id
      where r.project_id = ${projectId} and r.deleted_at is null and ${inIds(sql`r.id`, ids)}`,
  )

export const storedRelations = (tx: Tx, projectId: number): RelationRead[] =>
  rowsOf(
    tx,
    { from: text, to: text, kind: text },
    sql`
      select ${keySql('requirement', 'a.number')} as "from", ${keySql('requirement', 'b.number')} as "to",
        t.kind
      from requirement_relation t
      join requirement a on a.id = t.from_id
      join requirement b on b.id = t.to_id
      where t.project_id = ${projectId} and t.until_at is null and a.deleted_at is null and b.deleted_at is null
      order by t.id`,
  )
