import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { severities, defectStates, type DefectState } from '#core/defects/state.ts'
import { isOpenDefect } from '#db/rules.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, sql } from 'drizzle-orm'
import type { DefectRow, DefectSheet } from '#core/defects/contract.ts'
import { inIds, type ListSource, wordSearch } from '#db/finding/list.ts'
import { inOrder } from '#core/lib/in-order.ts'
import type { Tx } from '#db/open.ts'
import { defect, defectLink, defectStateAt } from './tables.ts'

export type DefectStored = typeof defect.$inferSelect

export const defectSource = (projectId: number): ListSource => ({
  id: sql`d.id`,
  from: sql`defect d`,
  where: sql`d.project_id = ${projectId} and d.deleted_at is null`,
  fields: {
    id: sql`d.id`,
    number: sql`d.number`,
    title: sql`d.title`,
    state: sql`d.state`,
    severity: sql`d.severity`,
    priority: sql`d.priority`,
    component: sql`d.component`,
    owner: sql`(select name from person where id = d.owner_id)`,
    foundIn: sql`(select name from build where id = d.found_in_build_id)`,
    fixedIn: sql`(select name from build where id = d.fixed_in_build_id)`,
    results: sql`(select count(distinct attempt_id) from defect_link where defect_id = d.id and until_at is null)`,
  },
  search: (word) => wordSearch('defect', { id: sql`d.id`, number: sql`d.number`, title: sql`d.title` }, word),
  defaultSort: sql`d.number desc`,
})

export function defectRows(tx: Tx, projectId: number, ids: readonly number[]): DefectRow[] {
  const f = defectSource(projectId).fields
  return inOrder(
    ids,
    rowsOf(
      tx,
      {
        id: int,
        key: text,
        number: int,
        title: text,
        severity: oneOf(severities),
        priority: int,
        state: oneOf(defectStates),
        component: text,
        foundIn: maybe(text),
        fixedIn: maybe(text),
        owner: maybe(text),
        results: int,
        at: int,
        version: int,
      },
      sql`
        select d.id, ${keySql('defect', 'd.number')} as key, d.number, d.title, d.severity, d.priority,
          d.state, d.component, ${f['foundIn']} as foundIn, ${f['fixedIn']} as fixedIn, ${f['owner']} as owner,
          ${f['results']} as results, d.created_at as at, d.version
        from defect d
        where d.project_id = ${projectId} and d.deleted_at is null and ${inIds(sql`d.id`, ids)}`,
    ),
  )
}

export const findDefect = (tx: Tx, projectId: number, number: number): DefectStored | undefined =>
  tx
    .select()
    .from(defect)
    .where(and(eq(defect.projectId, projectId), eq(defect.number, number)))
    .get()

export function addDefect(
  tx: Tx,
  of: Omit<typeof defect.$inferInsert, 'id' | 'createdAt' | 'updatedAt'>,
  by: { now: number; personId: string | null },
): number {
  const { id } = tx
    .insert(defect)
    .values({ ...of, createdAt: by.now, updatedAt: by.now })
    .returning({ id: defect.id })
    .get()
  addDefectState(tx, {
    defectId: id,
    state: of.state ?? 'Reported',
    fixedInBuildId: of.fixedInBuildId ?? null,
    at: by.now,
    personId: by.personId,
  })
  return id
}

export const addDefectState = (
  tx: Tx,
  of: { defectId: number; state: string; fixedInBuildId: number | null; at: number; personId: string | null },
): void => void tx.insert(defectStateAt).values(of).run()
export const saveDefect = (tx: Tx, id: number, edit: Partial<DefectStored>): void =>
  void tx.update(defect).set(edit).where(eq(defect.id, id)).run()

export const addDefectLink = (tx: Tx, of: Omit<typeof defectLink.$inferInsert, 'id'>): void =>
  void tx.insert(defectLink).values(of).run()

export const defectLinks = (tx: Tx, defectId: number): DefectSheet['links'] =>
  rowsOf(
    tx,
    {
      id: int,
      attempt: maybe(int),
      attemptVerdict: maybe(text),
      attemptBuild: maybe(text),
      attemptAt: maybe(int),
      environment: maybe(text),
      row: maybe(int),
      step: maybe(int),
      stepNumber: maybe(int),
      item: maybe(int),
      run: maybe(text),
      case: maybe(text),
      caseTitle: maybe(text),
      requirement: maybe(text),
      requirementTitle: maybe(text),
    },
    sql`
      select l.id, l.attempt_id as attempt, a.verdict as attemptVerdict, b.name as attemptBuild,
        a.finished_at as attemptAt, e.name as environment, l."row", l.step_id as step,
        (
          select position
          from version_step
          where version_id = a.version_id and step_id = l.step_id
        ) as stepNumber,
        l.item_id as item,
        (
          select ${keySql('run', 'r.number')}
          from item i
          join run r on r.id = i.run_id
          where i.id = l.item_id
        ) as run,
        ${keySql('case', 'c.number')} as "case", c.title as caseTitle,
        ${keySql('requirement', 'q.number')} as requirement, q.title as requirementTitle
      from defect_link l
      left join attempt a on a.id = l.attempt_id
      left join build b on b.id = a.build_id
      left join environment e on e.id = a.environment_id
      left join test_case c on c.id = l.case_id
      left join requirement q on q.id = l.requirement_id
      where l.defect_id = ${defectId} and l.until_at is null
      order by a.finished_at desc, l.id`,
  )

export const statesOfDefect = (tx: Tx, defectId: number): DefectSheet['states'] =>
  rowsOf(
    tx,
    { state: oneOf(defectStates), at: int, person: maybe(text), fixedIn: maybe(text) },
    sql`
      select s.state, s.at, p.name as person, b.name as fixedIn
      from defect_state_at s
      left join person p on p.id = s.person_id
      left join build b on b.id = s.fixed_in_build_id
      where s.defect_id = ${defectId}
      order by s.at, s.id`,
  )

export const defectEvidence = (tx: Tx, projectKey: string, defectId: number): DefectSheet['evidence'] =>
  rowsOf(
    tx,
    { id: int, name: text, mime: text },
    sql`
      select distinct t.id, t.name, t.mime
      from attachment t
      join defect_link l on l.defect_id = ${defectId}
        and l.until_at is null
        and t.owner_kind = 'attempt'
        and t.owner_id = l.attempt_id
        and (t.step_id is null or l.step_id is null or t.step_id = l.step_id)
      where t.deleted_at is null
      order by t.id`,
  ).map((each) => ({ ...each, url: `/api/v1/projects/${projectKey}/evidence/${each.id}` }))

/** The places whose standing result may turn on this defect's state. */
export const placesOfDefect = (
  tx: Tx,
  defectId: number,
): { caseId: number; environmentId: number; buildId: number }[] =>
  rowsOf(
    tx,
    { caseId: int, environmentId: int, buildId: int },
    sql`
      select distinct a.case_id as caseId, a.environment_id as environmentId, a.build_id as buildId
      from defect_link l
      join attempt a on a.id = l.attempt_id
      where l.defect_id = ${defectId} and l.until_at is null`,
  )

export const defectsHere = (
  tx: Tx,
  of: { caseId: number; attemptId: number | null },
): { key: string; title: string; state: DefectState; here: boolean }[] =>
  rowsOf(
    tx,
    { key: text, title: text, state: oneOf(defectStates), here: int },
    sql`
      select ${keySql('defect', 'd.number')} as key, d.title, d.state,
        max(coalesce(l.attempt_id, 0) = ${of.attemptId ?? -1}) as here
      from defect_link l
      join defect d on d.id = l.defect_id
      where l.case_id = ${of.caseId} and l.until_at is null and d.deleted_at is null
      group by d.id
      order by here desc, d.number desc
      limit 20`,
  ).map((row) => ({ ...row, here: row.here === 1 }))

/** Open defects on the same case or with the same rare words: what a new one may repeat. */
export const likelyRepeats = (
  tx: Tx,
  projectId: number,
  caseId: number,
): { key: string; title: string; state: string }[] =>
  rowsOf(
    tx,
    { key: text, title: text, state: text },
    sql`
      select distinct ${keySql('defect', 'd.number')} as key, d.title, d.state
      from defect d
      join defect_link l on l.defect_id = d.id and l.until_at is null
      where d.project_id = ${projectId}
        and d.deleted_at is null
        and ${isOpenDefect('d.state')}
        and l.case_id = ${caseId}
      order by d.number desc
      limit 5`,
  )

/** Cases that defects are linked to, by themselves or by an attempt, each once. */
export const casesOfDefects = (tx: Tx, defects: readonly number[]): number[] =>
  rowsOf(
    tx,
    { id: int },
    sql`
      select distinct coalesce(l.case_id, a.case_id) as id
      from defect_link l
      left join attempt a on a.id = l.attempt_id
      where ${inIds(sql`l.defect_id`, defects)}
        and l.until_at is null
        and coalesce(l.case_id, a.case_id) is not null
      order by 1`,
  ).map(({ id }) => id)
