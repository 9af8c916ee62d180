import { and, eq, isNull, sql } from 'drizzle-orm'
import type { CaseRow } from '#core/cases/contract.ts'
import { type StepText, type VersionContent, versionName } from '#core/cases/steps.ts'
import { inIds, type ListSource, wordSearch } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { tagsOf, valuesOf } from '#db/projects/fields.ts'
import { giveIdentities, type StepRow, useColumnsOf, useRow, withUse } from './uses.ts'
import { caseNeed, caseVersion, dataRow, folder, link, step, testCase, versionStep } from './tables.ts'

export type CaseStored = typeof testCase.$inferSelect
export type VersionStored = typeof caseVersion.$inferSelect

export const caseId = sql`c.id`

const day = 86_400_000

/** What can be asked of cases; ages are told as of `now`. */
export const caseSource = (projectId: number, now = 0): ListSource => ({
  id: sql`c.id`,
  from: sql`test_case c`,
  where: sql`c.project_id = ${projectId} and c.deleted_at is null`,
  fields: {
    // Said of a scope: the server puts the ids it holds for in its place before a list is asked.
    finding: sql`null`,
    made: sql`cast((${now} - c.created_at) / ${day} as integer)`,
    changed: sql`cast((${now} - c.updated_at) / ${day} as integer)`,
    versions: sql`(select count(*) from case_version where case_id = c.id and major >= 0)`,
    id: sql`c.id`,
    number: sql`c.number`,
    title: sql`c.title`,
    importance: sql`c.importance`,
    state: sql`c.state`,
    type: sql`c.type`,
    component: sql`c.component`,
    owner: sql`(select name from person where id = c.owner_id)`,
    automation: sql`c.automation`,
    estimate: sql`c.estimate`,
    folder: sql`(select name from folder where id = c.folder_id)`,
    folderId: sql`c.folder_id`,
    steps: sql`c.steps`,
    requirements: sql`(select count(*) from link l join requirement r on r.id = l.requirement_id where l.case_id = c.id and l.until_at is null and r.deleted_at is null)`,
    retired: sql`case when c.retired_at is null then 'no' else 'yes' end`,
    tags: sql`(select group_concat(tag, ', ') from tagging where owner_kind = 'case' and owner_id = c.id)`,
    attempts: sql`(select count(*) from attempt where case_id = c.id)`,
    defects: sql`(select count(distinct d.id) from defect_link l join defect d on d.id = l.defect_id where l.case_id = c.id and l.until_at is null and d.deleted_at is null and d.state not in ('Closed', 'Rejected'))`,
  },
  search: (word) => wordSearch('case', { id: sql`c.id`, number: sql`c.number`, title: sql`c.title` }, word),
  defaultSort: sql`c.number`,
})

type RowAnswer = Omit<CaseRow, 'retired' | 'tags' | 'custom'> & {
  retired: string
  major: number | null
  minor: number | null
}

export function caseRows(tx: Tx, projectId: number, ids: readonly number[]): CaseRow[] {
  const f = caseSource(projectId).fields
  const rows = tx.all<RowAnswer>(sql`
    select c.id, 'TC-' || c.number as key, c.number, c.title, c.importance, c.state, c.type, c.component, ${f['owner']} as owner, c.automation, c.estimate, ${f['folder']} as folder, c.steps,
      ${f['requirements']} as requirements, ${f['retired']} as retired, c.version, v.major, v.minor
    from test_case c left join case_version v on v.id = c.newest_version_id where c.project_id = ${projectId} and c.deleted_at is null and ${inIds(sql`c.id`, ids)}`)
  const byId = new Map(rows.map((row) => [row.id, row]))
  const [tags, values] = [tagsOf(tx, 'case', ids), valuesOf(tx, 'case', projectId, ids)]
  return ids.flatMap((id) => {
    const row = byId.get(id)
    if (!row) return []
    const { major, minor, ...rest } = row
    return [
      {
        ...rest,
        tags: tags.get(id) ?? [],
        custom: values.get(id) ?? {},
        retired: row.retired === 'yes',
        versionName: major === null || minor === null ? null : versionName(major, minor),
      },
    ]
  })
}

export const findCase = (tx: Tx, projectId: number, number: number): CaseStored | undefined =>
  tx
    .select()
    .from(testCase)
    .where(and(eq(testCase.projectId, projectId), eq(testCase.number, number)))
    .get()
export const caseById = (tx: Tx, id: number): CaseStored | undefined =>
  tx.select().from(testCase).where(eq(testCase.id, id)).get()

export type NewCase = Pick<CaseStored, 'projectId' | 'number' | 'title' | 'position'> & Partial<CaseStored>

/** A case with its empty working copy. */
export function addCase(
  tx: Tx,
  of: NewCase,
  by: { now: number; personId: string | null; emptyFingerprint: string },
): { id: number; workingId: number } {
  const { id } = tx
    .insert(testCase)
    .values({ ...of, createdAt: of.createdAt ?? by.now, updatedAt: by.now })
    .returning({ id: testCase.id })
    .get()
  const working = tx
    .insert(caseVersion)
    .values({ caseId: id, fingerprint: by.emptyFingerprint, createdAt: by.now, createdBy: by.personId })
    .returning({ id: caseVersion.id })
    .get()
  return { id, workingId: working.id }
}

export const saveCase = (tx: Tx, id: number, edit: Partial<CaseStored>): void =>
  void tx.update(testCase).set(edit).where(eq(testCase.id, id)).run()

export const lastCasePosition = (tx: Tx, projectId: number, folderId: number | null): number =>
  tx.get<{ n: number | null }>(
    sql`select max(position) as n from test_case where project_id = ${projectId} and folder_id is ${folderId}`,
  )?.n ?? 0

export function workingCopy(tx: Tx, caseId: number): VersionStored {
  const found = tx
    .select()
    .from(caseVersion)
    .where(and(eq(caseVersion.caseId, caseId), isNull(caseVersion.major)))
    .get()
  if (!found) throw new Error(`case ${caseId} has no working copy`)
  return found
}

export const versionById = (tx: Tx, id: number): VersionStored | undefined =>
  tx.select().from(caseVersion).where(eq(caseVersion.id, id)).get()

export const versionsOf = (tx: Tx, caseId: number): (VersionStored & { by: string | null })[] =>
  tx.all<VersionStored & { by: string | null }>(sql`
    select v.id, v.case_id as caseId, v.major, v.minor, v.state, v.fingerprint, v.preconditions, v.parameters, v.environment, v.table_id as tableId, v.table_mode as tableMode, v.why, v.created_at as createdAt, v.created_by as createdBy, v.approved_at as approvedAt, v.approved_by as approvedBy,
      p.name as by from case_version v left join person p on p.id = v.created_by where v.case_id = ${caseId} and v.major >= 0 order by v.major desc, v.minor desc`)

export type StoredContent = Omit<VersionContent, 'steps'> & {
  readonly steps: (Omit<StepText, 'id'> & { readonly id: number })[]
}

export function readContent(tx: Tx, version: VersionStored): StoredContent {
  const steps = tx.all<StepRow>(
    sql`select s.step_id as id, s.action, s.expected, s.data, ${useRow} from version_step s where s.version_id = ${version.id} order by s.position`,
  )
  const rows = tx
    .select({ values: dataRow.values })
    .from(dataRow)
    .where(eq(dataRow.versionId, version.id))
    .orderBy(dataRow.row)
    .all()
  const needs = tx.all<{ key: string }>(
    sql`select 'TC-' || c.number as key from case_need n join test_case c on c.id = n.case_id where n.version_id = ${version.id} order by c.number`,
  )
  const table =
    version.tableId === null
      ? undefined
      : tx.get<{ name: string }>(sql`select name from data_table where id = ${version.tableId}`)
  return {
    preconditions: version.preconditions,
    steps: steps.map(withUse),
    parameters: JSON.parse(version.parameters),
    rows: rows.map(({ values }) => JSON.parse(values)),
    ...(needs.length > 0 && { needs: needs.map(({ key }) => key) }),
    ...(version.environment !== '' && { environment: version.environment }),
    ...(table &&
      version.tableId !== null &&
      version.tableMode && { table: { id: version.tableId, name: table.name, mode: version.tableMode } }),
  }
}

/** Writes what a version says; steps without an identity get one that stays over all later versions, and so do the steps that others bring in. */
export function writeContent(
  tx: Tx,
  version: { id: number; caseId: number },
  content: VersionContent,
  fingerprint: string,
): void {
  tx.delete(versionStep).where(eq(versionStep.versionId, version.id)).run()
  tx.delete(dataRow).where(eq(dataRow.versionId, version.id)).run()
  tx.delete(caseNeed).where(eq(caseNeed.versionId, version.id)).run()
  content.steps.forEach(({ id, action, expected, data, use }, index) => {
    const stepId = id ?? tx.insert(step).values({ caseId: version.caseId }).returning({ id: step.id }).get().id
    tx.insert(versionStep)
      .values({ versionId: version.id, position: index + 1, stepId, action, expected, data, ...useColumnsOf(use) })
      .run()
    if (use) giveIdentities(tx, { caseId: version.caseId, within: stepId, use })
  })
  content.rows.forEach((values, index) =>
    tx
      .insert(dataRow)
      .values({ versionId: version.id, row: index + 1, values: JSON.stringify(values) })
      .run(),
  )
  for (const key of content.needs ?? [])
    tx.run(
      sql`insert or ignore into case_need (version_id, case_id) select ${version.id}, n.id from test_case n join test_case c on c.project_id = n.project_id where c.id = ${version.caseId} and n.number = ${Number(key.slice(3))}`,
    )
  tx.update(caseVersion)
    .set({
      preconditions: content.preconditions,
      parameters: JSON.stringify(content.parameters),
      fingerprint,
      environment: content.environment ?? '',
      tableId: content.table?.id ?? null,
      tableMode: content.table?.mode ?? null,
    })
    .where(eq(caseVersion.id, version.id))
    .run()
}

/** Copies the working copy into a numbered version, which nobody changes after. */
export function addVersion(
  tx: Tx,
  working: VersionStored,
  of: {
    major: number
    minor: number
    state: VersionStored['state']
    why: string
    now: number
    personId: string | null
  },
): number {
  const { id } = tx
    .insert(caseVersion)
    .values({
      caseId: working.caseId,
      major: of.major,
      minor: of.minor,
      state: of.state,
      fingerprint: working.fingerprint,
      preconditions: working.preconditions,
      parameters: working.parameters,
      environment: working.environment,
      tableId: working.tableId,
      tableMode: working.tableMode,
      why: of.why,
      createdAt: of.now,
      createdBy: of.personId,
      approvedAt: of.state === 'Approved' ? of.now : null,
      approvedBy: of.state === 'Approved' ? of.personId : null,
    })
    .returning({ id: caseVersion.id })
    .get()
  tx.run(
    sql`insert into version_step (version_id, position, step_id, action, expected, data, use_routine_version_id, use_case_version_id, use_values) select ${id}, position, step_id, action, expected, data, use_routine_version_id, use_case_version_id, use_values from version_step where version_id = ${working.id}`,
  )
  tx.run(
    sql`insert into data_row (version_id, "row", "values") select ${id}, "row", "values" from data_row where version_id = ${working.id}`,
  )
  tx.run(
    sql`insert into case_need (version_id, case_id) select ${id}, case_id from case_need where version_id = ${working.id}`,
  )
  return id
}

export const setVersionState = (tx: Tx, id: number, edit: Partial<VersionStored>): void =>
  void tx.update(caseVersion).set(edit).where(eq(caseVersion.id, id)).run()

export type LinkStored = typeof link.$inferSelect
export const openLinks = (tx: Tx, of: { requirementId?: number; caseId?: number }): LinkStored[] =>
  tx
    .select()
    .from(link)
    .where(
      and(
        isNull(link.untilAt),
        of.requirementId === undefined ? undefined : eq(link.requirementId, of.requirementId),
        of.caseId === undefined ? undefined : eq(link.caseId, of.caseId),
      ),
    )
    .all()

export const linkById = (tx: Tx, projectId: number, id: number): LinkStored | undefined =>
  tx
    .select()
    .from(link)
    .where(and(eq(link.id, id), eq(link.projectId, projectId)))
    .get()

/** Links a case to a requirement unless it is linked already; answers whether a link was made. */
export function addLink(
  tx: Tx,
  of: {
    projectId: number
    requirementId: number
    caseId: number
    revision: number
    versionId: number | null
    quote?: string
    stepId?: number | null
  },
  by: { now: number; personId: string | null },
): boolean {
  return (
    tx
      .insert(link)
      .values({
        projectId: of.projectId,
        requirementId: of.requirementId,
        caseId: of.caseId,
        fromAt: by.now,
        confirmedRevision: of.revision,
        confirmedVersionId: of.versionId,
        personId: by.personId,
        quote: of.quote ?? '',
        stepId: of.stepId ?? null,
      })
      .onConflictDoNothing()
      .run().changes > 0
  )
}

export const endLink = (tx: Tx, id: number, now: number): void =>
  void tx.update(link).set({ untilAt: now }).where(eq(link.id, id)).run()

export const folders = (
  tx: Tx,
  projectId: number,
): { id: number; parent: number | null; name: string; position: number; cases: number }[] =>
  tx.all(
    sql`select f.id, f.parent_id as parent, f.name, f.position, (select count(*) from test_case c where c.project_id = ${projectId} and c.folder_id = f.id and c.deleted_at is null) as cases from folder f where f.project_id = ${projectId} and f.deleted_at is null order by f.position, f.id`,
  )

export function addFolder(tx: Tx, projectId: number, name: string, parentId: number | null): number {
  const last =
    tx.get<{ n: number | null }>(
      sql`select max(position) as n from folder where project_id = ${projectId} and parent_id is ${parentId}`,
    )?.n ?? 0
  return tx
    .insert(folder)
    .values({ projectId, name, parentId, position: last + 1 })
    .returning({ id: folder.id })
    .get().id
}

export const findFolder = (tx: Tx, projectId: number, name: string, parentId: number | null): number | undefined =>
  tx.get<{ id: number }>(
    sql`select id from folder where project_id = ${projectId} and parent_id is ${parentId} and name = ${name} and deleted_at is null`,
  )?.id

export const attemptsOfCase = (
  tx: Tx,
  caseId: number,
  limit: number,
): {
  id: number
  verdict: string
  environment: string
  build: string
  at: number | null
  person: string | null
  major: number
  minor: number
}[] =>
  tx.all(sql`
    select a.id, a.verdict, e.name as environment, b.name as build, a.finished_at as at, p.name as person, v.major, v.minor
    from attempt a join environment e on e.id = a.environment_id join build b on b.id = a.build_id join case_version v on v.id = a.version_id left join person p on p.id = a.person_id
    where a.case_id = ${caseId} order by coalesce(a.finished_at, a.started_at) desc, a.id desc limit ${limit}`)

export const defectsOfCase = (
  tx: Tx,
  caseId: number,
): { key: string; title: string; state: string; severity: string }[] =>
  tx.all(
    sql`select distinct 'DF-' || d.number as key, d.title, d.state, d.severity from defect_link l join defect d on d.id = l.defect_id where l.case_id = ${caseId} and l.until_at is null and d.deleted_at is null order by d.number desc limit 100`,
  )

export const suitesOfCase = (tx: Tx, caseId: number): { key: string; title: string }[] =>
  tx.all(
    sql`select 'TS-' || s.number as key, s.title from suite_pin p join suite s on s.id = p.suite_id where p.case_id = ${caseId} and s.deleted_at is null order by s.number`,
  )

/** Minutes a case takes: given, else guessed from its steps as `guessedMinutes` does. */
export const caseMinutes = sql`coalesce(c.estimate, max(2, cast(round(2 + c.steps * 1.5) as integer)))`

/** A version that waits for an import to be shown (see swapWorking); nobody sees it before. */
export const addWaitingVersion = (
  tx: Tx,
  caseId: number,
  act: number,
  by: { now: number; personId: string | null },
): number =>
  tx
    .insert(caseVersion)
    .values({ caseId, major: -act, minor: 0, fingerprint: '', createdAt: by.now, createdBy: by.personId })
    .returning({ id: caseVersion.id })
    .get().id

export const caseIds = (tx: Tx, projectId: number): number[] =>
  tx
    .all<{ id: number }>(
      sql`select id from test_case where project_id = ${projectId} and deleted_at is null order by number`,
    )
    .map(({ id }) => id)

export const attemptCounts = (tx: Tx, ids: readonly number[]): Map<number, number> =>
  new Map(
    tx
      .all<{ id: number; n: number }>(
        sql`select case_id as id, count(*) as n from attempt where ${inIds(sql`case_id`, ids)} group by 1`,
      )
      .map(({ id, n }) => [id, n]),
  )

export const copyPins = (tx: Tx, from: number, to: number): void =>
  void tx.run(
    sql`insert or ignore into suite_pin (suite_id, case_id, position) select suite_id, ${to}, position from suite_pin where case_id = ${from}`,
  )
/** What hangs on a case by itself; what hangs on its attempts stays with them. */
export const copyDefectLinks = (tx: Tx, from: number, to: number, now: number): void =>
  void tx.run(
    sql`insert into defect_link (defect_id, case_id, from_at) select distinct l.defect_id, ${to}, ${now} from defect_link l where l.case_id = ${from} and l.until_at is null and not exists (select 1 from defect_link o where o.defect_id = l.defect_id and o.case_id = ${to} and o.until_at is null)`,
  )

/** Ends the links a case got at an instant from another that has the same. */
export const endAddedLinks = (tx: Tx, of: { from: number; to: number; since: number; now: number }): void =>
  void tx.run(
    sql`update link set until_at = ${of.now} where case_id = ${of.to} and until_at is null and from_at = ${of.since} and requirement_id in (select requirement_id from link where case_id = ${of.from} and until_at is null)`,
  )

export const addAlias = (
  tx: Tx,
  of: { projectId: number; key: string; kind: string; ownerId: number; at: number },
): void =>
  void tx.run(
    sql`insert or replace into alias (project_id, key, kind, owner_id, at) values (${of.projectId}, ${of.key}, ${of.kind}, ${of.ownerId}, ${of.at})`,
  )

/** Where an object that left the project is now. */
export const movedTo = (tx: Tx, projectId: number, key: string): { project: string; key: string } | undefined =>
  tx.get(
    sql`select p.key as project, 'TC-' || c.number as key from alias a join test_case c on c.id = a.owner_id join project p on p.id = c.project_id where a.project_id = ${projectId} and a.key = ${key} and a.kind = 'case' and c.deleted_at is null`,
  )

export const mergedInto = (tx: Tx, id: number): string[] =>
  tx
    .all<{ key: string }>(
      sql`select 'TC-' || number as key from test_case where merged_into_id = ${id} and deleted_at is null order by number`,
    )
    .map(({ key }) => key)

/** Those of the cases that are not retired. */
export const liveAmong = (tx: Tx, projectId: number, ids: readonly number[]): number[] =>
  tx
    .all<{ id: number }>(
      sql`select id from test_case where project_id = ${projectId} and retired_at is null and ${inIds(sql`id`, ids)}`,
    )
    .map(({ id }) => id)

export const folderById = (
  tx: Tx,
  projectId: number,
  id: number,
): { id: number; name: string; parentId: number | null } | undefined =>
  tx.get(
    sql`select id, name, parent_id as parentId from folder where id = ${id} and project_id = ${projectId} and deleted_at is null`,
  )
export const saveFolder = (
  tx: Tx,
  id: number,
  edit: { name?: string; parentId?: number | null; position?: number; deletedAt?: number | null },
): void => void tx.update(folder).set(edit).where(eq(folder.id, id)).run()
export const casesInFolder = (tx: Tx, projectId: number, id: number): number[] =>
  tx
    .all<{ id: number }>(
      sql`select id from test_case where project_id = ${projectId} and folder_id = ${id} and deleted_at is null`,
    )
    .map((row) => row.id)
export const saveLink = (tx: Tx, id: number, edit: { stepId: number | null; quote: string }): void =>
  void tx.update(link).set(edit).where(eq(link.id, id)).run()
/** Live cases with the requirement they prove first, by outline: where a folder that mirrors it would hold them. */
export const firstRequirementOf = (
  tx: Tx,
  projectId: number,
): { caseId: number; requirementId: number; folderId: number | null }[] =>
  tx.all(
    sql`select c.id as caseId, min(l.requirement_id) as requirementId, c.folder_id as folderId from test_case c join link l on l.case_id = c.id and l.until_at is null join requirement r on r.id = l.requirement_id and r.deleted_at is null where c.project_id = ${projectId} and c.deleted_at is null group by c.id`,
  )
