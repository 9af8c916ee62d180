import { textsIn, valuesIn } from '#db/json.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { versionStates } from '#core/cases/case.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { StepText, VersionContent } from '#core/cases/steps.ts'
import type { Tx } from '#db/open.ts'
import { giveIdentities, stepShape, useColumnsOf, useRow, withUse } from './uses.ts'
import { caseNeed, caseVersion, dataRow, step, versionStep } from './tables.ts'

export type VersionStored = typeof caseVersion.$inferSelect

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

/** The version of a case that is called so, as `1.2`. */
export function versionNamed(tx: Tx, caseId: number, name: string): VersionStored | undefined {
  const [, major, minor] = /^v?(\d{1,6})\.(\d{1,6})$/.exec(name.trim()) ?? []
  return tx
    .select()
    .from(caseVersion)
    .where(
      and(
        eq(caseVersion.caseId, caseId),
        eq(caseVersion.major, Number(major ?? -1)),
        eq(caseVersion.minor, Number(minor ?? -1)),
      ),
    )
    .get()
}

export const versionsOf = (tx: Tx, caseId: number): (VersionStored & { by: string | null })[] =>
  rowsOf(
    tx,
    {
      id: int,
      createdAt: int,
      state: oneOf(versionStates),
      environment: text,
      caseId: int,
      major: maybe(int),
      minor: maybe(int),
      fingerprint: text,
      preconditions: text,
      parameters: text,
      tableId: maybe(int),
      tableMode: maybe(oneOf(['each', 'one'])),
      why: text,
      createdBy: maybe(text),
      approvedAt: maybe(int),
      approvedBy: maybe(text),
      by: maybe(text),
    },
    sql`
      select v.id, v.case_id as caseId, v.major, v.minor, v.state, v.fingerprint, v.preconditions,
        v.parameters, v.environment, v.table_id as tableId, v.table_mode as tableMode, v.why,
        v.created_at as createdAt, v.created_by as createdBy, v.approved_at as approvedAt,
        v.approved_by as approvedBy, p.name as by
      from case_version v
      left join person p on p.id = v.created_by
      where v.case_id = ${caseId} and v.major >= 0
      order by v.major desc, v.minor desc`,
  )

export type StoredContent = Omit<VersionContent, 'steps'> & {
  readonly steps: (Omit<StepText, 'id'> & { readonly id: number })[]
}

export function readContent(tx: Tx, version: VersionStored): StoredContent {
  const steps = rowsOf(
    tx,
    stepShape,
    sql`
      select s.step_id as id, s.action, s.expected, s.data, ${useRow}
      from version_step s
      where s.version_id = ${version.id}
      order by s.position`,
  )
  const rows = tx
    .select({ values: dataRow.values })
    .from(dataRow)
    .where(eq(dataRow.versionId, version.id))
    .orderBy(dataRow.row)
    .all()
  const needs = rowsOf(
    tx,
    { key: text },
    sql`
      select ${keySql('case', 'c.number')} as key
      from case_need n
      join test_case c on c.id = n.case_id
      where n.version_id = ${version.id}
      order by c.number`,
  )
  const table =
    version.tableId === null
      ? undefined
      : rowOf(tx, { name: text }, sql`select name from data_table where id = ${version.tableId}`)
  return {
    preconditions: version.preconditions,
    steps: steps.map(withUse),
    parameters: textsIn(version.parameters),
    rows: rows.map(({ values }) => valuesIn(values)),
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
  content.steps.forEach(({ id, action, expected, data, use, evidence = false }, index) => {
    const stepId = id ?? tx.insert(step).values({ caseId: version.caseId }).returning({ id: step.id }).get().id
    tx.insert(versionStep)
      .values({
        versionId: version.id,
        position: index + 1,
        stepId,
        action,
        expected,
        data,
        evidence,
        ...useColumnsOf(use),
      })
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
      sql`
        insert or ignore into case_need (version_id, case_id)
        select ${version.id}, n.id
        from test_case n
        join test_case c on c.project_id = n.project_id
        where c.id = ${version.caseId} and n.number = ${Number(key.slice(3))}`,
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
    sql`
      insert into version_step (
        version_id, position, step_id, action, expected, data, use_routine_version_id, use_case_version_id,
        use_values, evidence
      )
      select ${id}, position, step_id, action, expected, data, use_routine_version_id, use_case_version_id,
        use_values, evidence
      from version_step
      where version_id = ${working.id}`,
  )
  tx.run(
    sql`
      insert into data_row (version_id, "row", "values")
      select ${id}, "row", "values"
      from data_row
      where version_id = ${working.id}`,
  )
  tx.run(
    sql`
      insert into case_need (version_id, case_id)
      select ${id}, case_id
      from case_need
      where version_id = ${working.id}`,
  )
  return id
}

export const setVersionState = (tx: Tx, id: number, edit: Partial<VersionStored>): void =>
  void tx.update(caseVersion).set(edit).where(eq(caseVersion.id, id)).run()

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

/** Who wrote in a case since it was approved last; where no history tells, who cut its newest version. */
export function writersOf(tx: Tx, caseId: number): string[] {
  const told = rowsOf(
    tx,
    { person: text },
    sql`
      select distinct h.person_id as person
      from change h
      where h.kind = 'case' and h.owner_id = ${caseId} and h.action in ('created', 'written', 'imported')
        and h.id > coalesce(
          (select max(id) from change where kind = 'case' and owner_id = ${caseId} and action = 'approved'),
          0
        )`,
  )
  if (told.length > 0) return told.map(({ person }) => person)
  return rowsOf(
    tx,
    { person: text },
    sql`
      select v.created_by as person
      from test_case c
      join case_version v on v.id = c.newest_version_id
      where c.id = ${caseId} and v.created_by is not null
        and c.newest_version_id is not c.approved_version_id`,
  ).map(({ person }) => person)
}
