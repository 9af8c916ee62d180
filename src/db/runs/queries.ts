import { executedStepIds } from '#db/cases/uses.ts'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Attempt, AttemptChange, Mark } from '#core/runs/attempt.ts'
import type { Desk, Evidence, ItemRow, RunRow, RunSheet } from '#core/runs/contract.ts'
import type { StandingAttempt } from '#core/runs/standing.ts'
import { type Verdict, finalVerdict, verdict as verdictShape } from '#core/runs/verdict.ts'
import { inIds, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { attempt, attemptRow, attemptStep, item, run, runPerson, standingResult, verdictEvent } from './tables.ts'

export type RunStored = typeof run.$inferSelect
export type ItemStored = typeof item.$inferSelect
export type AttemptStored = typeof attempt.$inferSelect

const like = (word: string) => `%${word.replace(/[\\%_]/g, '\\$&')}%`
export const runSource = (projectId: number): ListSource => ({
  id: sql`t.id`,
  from: sql`run t`,
  where: sql`t.project_id = ${projectId} and t.deleted_at is null`,
  fields: {
    id: sql`t.id`,
    number: sql`t.number`,
    title: sql`t.title`,
    state: sql`t.state`,
    release: sql`(select name from release where id = t.release_id)`,
    build: sql`(select name from build where id = t.build_id)`,
  },
  search: (word) => sql`(t.title like ${like(word)} escape '\\')`,
  defaultSort: sql`case t.state when 'Open' then 0 when 'Planned' then 1 else 2 end, t.number desc`,
})

/** Minutes of an item: given, else its case's own, else guessed from the steps. */
export const itemMinutes = sql`coalesce(i.estimate, c.estimate, max(2, cast(round(2 + c.steps * 1.5) as integer)))`

export const itemSource = (runId: number): ListSource => ({
  id: sql`i.id`,
  from: sql`item i join test_case c on c.id = i.case_id join environment e on e.id = i.environment_id left join person p on p.id = i.assignee_id`,
  where: sql`i.run_id = ${runId} and i.deleted_at is null`,
  fields: {
    id: sql`i.id`,
    case: sql`c.number`,
    title: sql`c.title`,
    environment: sql`e.name`,
    assignee: sql`p.name`,
    verdict: sql`i.verdict`,
    estimate: itemMinutes,
    importance: sql`c.importance`,
    component: sql`c.component`,
  },
  search: (word) =>
    /^tc-\d+$/.test(word)
      ? sql`(c.number = ${Number(word.slice(3))})`
      : sql`(c.title like ${like(word)} escape '\\' or e.name like ${like(word)} escape '\\')`,
  defaultSort: sql`i.position`,
})

type RunAnswer = Omit<RunRow, 'verdicts' | 'items' | 'done' | 'minutes'>
export function runRows(tx: Tx, projectId: number, ids: readonly number[]): RunRow[] {
  const rows = tx.all<RunAnswer>(sql`
    select t.id, 'RN-' || t.number as key, t.number, t.title, t.state, t.version, (select 'PL-' || number from plan where id = t.plan_id) as plan, r.name as "release", b.name as build, t.start_on as startOn, t.end_on as endOn
    from run t join release r on r.id = t.release_id join build b on b.id = t.build_id where t.project_id = ${projectId} and t.deleted_at is null and ${inIds(sql`t.id`, ids)}`)
  const counts = tx.all<{ runId: number; verdict: string; n: number; minutes: number }>(sql`
    select i.run_id as runId, i.verdict, count(*) as n, sum(${itemMinutes}) as minutes from item i join test_case c on c.id = i.case_id where i.deleted_at is null and ${inIds(sql`i.run_id`, ids)} group by 1, 2`)
  return ids.flatMap((id) => {
    const row = rows.find((each) => each.id === id)
    if (!row) return []
    const own = counts.filter(({ runId }) => runId === id)
    const total = (of: (row: { n: number; minutes: number; verdict: string }) => number) =>
      own.reduce((sum, each) => sum + of(each), 0)
    return [
      {
        ...row,
        verdicts: Object.fromEntries(own.map(({ verdict, n }) => [verdict, n])),
        items: total(({ n }) => n),
        minutes: total(({ minutes }) => minutes),
        done: total(({ n, verdict }) => (verdict === 'Not run' || verdict === 'In progress' ? 0 : n)),
      },
    ]
  })
}

export const findRun = (tx: Tx, projectId: number, number: number): RunStored | undefined =>
  tx
    .select()
    .from(run)
    .where(and(eq(run.projectId, projectId), eq(run.number, number)))
    .get()
export const runById = (tx: Tx, id: number): RunStored | undefined => tx.select().from(run).where(eq(run.id, id)).get()
export const addRun = (
  tx: Tx,
  of: Omit<typeof run.$inferInsert, 'id' | 'createdAt' | 'updatedAt'>,
  now: number,
): number =>
  tx
    .insert(run)
    .values({ ...of, createdAt: now, updatedAt: now })
    .returning({ id: run.id })
    .get().id
export const saveRun = (tx: Tx, id: number, edit: Partial<RunStored>): void =>
  void tx.update(run).set(edit).where(eq(run.id, id)).run()

export function setTeam(tx: Tx, runId: number, people: readonly string[]): void {
  tx.delete(runPerson).where(eq(runPerson.runId, runId)).run()
  for (const personId of people) tx.insert(runPerson).values({ runId, personId }).run()
}
export const teamIds = (tx: Tx, runId: number): string[] =>
  tx
    .select({ id: runPerson.personId })
    .from(runPerson)
    .where(eq(runPerson.runId, runId))
    .all()
    .map(({ id }) => id)

/** The team and whoever else has items, with what each has and has left. */
export const teamOf = (tx: Tx, runId: number): RunSheet['team'] =>
  tx.all(sql`
    select p.id, p.name, coalesce(x.items, 0) as items, coalesce(x.minutes, 0) as minutes, coalesce(x.remaining, 0) as "left" from person p
    left join (select i.assignee_id as who, count(*) as items, sum(${itemMinutes}) as minutes, sum(case when i.verdict in ('Not run', 'In progress') then ${itemMinutes} else 0 end) as remaining
      from item i join test_case c on c.id = i.case_id where i.run_id = ${runId} and i.deleted_at is null group by 1) x on x.who = p.id
    where p.id in (select person_id from run_person where run_id = ${runId}) or x.who is not null order by p.name`)

export const addItem = (
  tx: Tx,
  of: {
    runId: number
    caseId: number
    environmentId: number
    position: number
    assigneeId?: string | null
    dueOn?: string | null
  },
): number => tx.insert(item).values(of).returning({ id: item.id }).get().id

type ItemAnswer = Omit<ItemRow, 'defects'> & { defects: string | null }
export function itemRows(tx: Tx, ids: readonly number[]): ItemRow[] {
  const rows = tx.all<ItemAnswer>(sql`
    select i.id, 'TC-' || c.number as "case", c.id as caseId, c.title, c.importance, c.component, e.name as environment, p.name as assignee, i.assignee_id as assigneeId, i.estimate, ${itemMinutes} as minutes, i.verdict, i.due_on as dueOn, i.position,
      i.attempt_id as attempt, a.finished_at as at, b.name as build,
      (select group_concat(distinct 'DF-' || d.number) from defect_link l join defect d on d.id = l.defect_id where l.attempt_id = i.attempt_id and l.until_at is null and d.deleted_at is null) as defects
    from item i join test_case c on c.id = i.case_id join environment e on e.id = i.environment_id left join person p on p.id = i.assignee_id left join attempt a on a.id = i.attempt_id left join build b on b.id = a.build_id
    where i.deleted_at is null and ${inIds(sql`i.id`, ids)}`)
  const byId = new Map(rows.map((row) => [row.id, row]))
  return ids.flatMap((id) => {
    const row = byId.get(id)
    return row ? [{ ...row, defects: row.defects === null ? [] : row.defects.split(',') }] : []
  })
}

export const findItem = (tx: Tx, projectId: number, id: number): (ItemStored & { runNumber: number }) | undefined =>
  tx
    .select({ item, runNumber: run.number })
    .from(item)
    .innerJoin(run, eq(run.id, item.runId))
    .where(and(eq(item.id, id), eq(run.projectId, projectId), isNull(item.deletedAt), isNull(run.deletedAt)))
    .all()
    .map((row) => ({ ...row.item, runNumber: row.runNumber }))[0]

export const itemsOfRun = (
  tx: Tx,
  runId: number,
  ids: readonly number[] | null,
): (ItemStored & { minutes: number })[] =>
  tx.all(sql`select i.id, i.run_id as runId, i.case_id as caseId, i.environment_id as environmentId, i.position, i.assignee_id as assigneeId, i.estimate, i.due_on as dueOn, i.verdict, i.attempt_id as attemptId, ${itemMinutes} as minutes
    from item i join test_case c on c.id = i.case_id where i.run_id = ${runId} and i.deleted_at is null and ${ids === null ? sql`1` : inIds(sql`i.id`, ids)} order by i.position`)

export const saveItem = (tx: Tx, id: number, edit: Partial<ItemStored>): void =>
  void tx.update(item).set(edit).where(eq(item.id, id)).run()

/** The open items a person's desk goes through: their own first when `personId` is given. */
export const queueOf = (tx: Tx, runId: number, personId: string | null): Desk['queue'] =>
  tx.all(sql`select i.id, 'TC-' || c.number as "case", c.title, ${itemMinutes} as minutes, i.verdict, e.name as environment from item i join test_case c on c.id = i.case_id join environment e on e.id = i.environment_id
    where i.run_id = ${runId} and i.deleted_at is null ${personId === null ? sql`` : sql`and i.assignee_id = ${personId}`} order by i.position`)

export const requirementsOfCase = (tx: Tx, caseId: number): { id: number; key: string; title: string }[] =>
  tx.all(
    sql`select distinct r.id, 'RQ-' || r.number as key, r.title from link l join requirement r on r.id = l.requirement_id where l.case_id = ${caseId} and l.until_at is null and r.deleted_at is null order by r.number`,
  )

export const addAttempt = (tx: Tx, of: Omit<typeof attempt.$inferInsert, 'id'>): number =>
  tx.insert(attempt).values(of).returning({ id: attempt.id }).get().id
export const addAttemptRow = (tx: Tx, attemptId: number, row: number, values: Readonly<Record<string, string>>): void =>
  void tx
    .insert(attemptRow)
    .values({ attemptId, row, values: JSON.stringify(values) })
    .run()
export const findAttempt = (tx: Tx, projectId: number, id: number): AttemptStored | undefined =>
  tx
    .select()
    .from(attempt)
    .where(and(eq(attempt.id, id), eq(attempt.projectId, projectId)))
    .get()

export const attemptRows = (tx: Tx, attemptId: number): Record<string, string>[] =>
  tx
    .select({ values: attemptRow.values })
    .from(attemptRow)
    .where(eq(attemptRow.attemptId, attemptId))
    .orderBy(attemptRow.row)
    .all()
    .map(({ values }) => JSON.parse(values))

export interface StoredMark extends Mark {
  readonly comment: string
  readonly at: number
}
export const attemptMarks = (tx: Tx, attemptId: number): StoredMark[] =>
  tx
    .select({
      row: attemptStep.row,
      step: attemptStep.stepId,
      verdict: attemptStep.verdict,
      word: attemptStep.word,
      final: attemptStep.final,
      comment: attemptStep.comment,
      at: attemptStep.at,
    })
    .from(attemptStep)
    .where(eq(attemptStep.attemptId, attemptId))
    .all()
    .map((mark) => ({ ...mark, verdict: verdictShape.parse(mark.verdict) }))

const rowCount = (tx: Tx, attemptId: number): number =>
  Math.max(1, tx.get<{ n: number }>(sql`select count(*) as n from attempt_row where attempt_id = ${attemptId}`)?.n ?? 0)

/** The attempt as core rules see it. */
export function loadAttempt(tx: Tx, stored: AttemptStored): Attempt {
  return {
    rows: rowCount(tx, stored.id),
    steps: executedStepIds(tx, stored.versionId),
    marks: attemptMarks(tx, stored.id),
    whole:
      stored.wholeVerdict === null
        ? null
        : { verdict: finalVerdict.parse(stored.wholeVerdict), override: stored.overrideReason },
  }
}

/** Writes the marks of a change; a step's comment stays whatever becomes of its verdict. */
export function saveChange(tx: Tx, attemptId: number, change: AttemptChange, at: number): void {
  for (const { from, to } of change.marks) {
    const place = to ?? from
    if (!place) continue
    const set = to
      ? { verdict: to.verdict, word: to.word, final: to.final, at }
      : { verdict: 'Not run', word: null, final: true, at }
    tx.insert(attemptStep)
      .values({ attemptId, row: place.row, stepId: place.step, ...set })
      .onConflictDoUpdate({ target: [attemptStep.attemptId, attemptStep.row, attemptStep.stepId], set })
      .run()
  }
}

export function saveStepComment(
  tx: Tx,
  of: { attemptId: number; row: number; stepId: number; comment: string; at: number },
): void {
  tx.insert(attemptStep)
    .values({ ...of, verdict: 'Not run' })
    .onConflictDoUpdate({
      target: [attemptStep.attemptId, attemptStep.row, attemptStep.stepId],
      set: { comment: of.comment },
    })
    .run()
}

export const saveAttempt = (tx: Tx, id: number, edit: Partial<AttemptStored>): void =>
  void tx.update(attempt).set(edit).where(eq(attempt.id, id)).run()

export const addEvent = (
  tx: Tx,
  of: {
    attemptId: number
    clientId: string
    sequence: number
    personId: string
    change: AttemptChange
    undoes?: number
    at: number
    receivedAt: number
  },
): void =>
  void tx
    .insert(verdictEvent)
    .values({ ...of, change: JSON.stringify(of.change) })
    .run()

/** Has this event of this client been stored already, and for which attempt? */
export const findEvent = (tx: Tx, clientId: string, sequence: number): { attemptId: number } | undefined =>
  tx
    .select({ attemptId: verdictEvent.attemptId })
    .from(verdictEvent)
    .where(and(eq(verdictEvent.clientId, clientId), eq(verdictEvent.sequence, sequence)))
    .get()

/** The newest verdict of a person in an attempt that is not taken back yet. */
export function lastUndoable(
  tx: Tx,
  attemptId: number,
  personId: string,
): { id: number; change: AttemptChange } | undefined {
  const row = tx
    .select({ id: verdictEvent.id, change: verdictEvent.change })
    .from(verdictEvent)
    .where(
      and(
        eq(verdictEvent.attemptId, attemptId),
        eq(verdictEvent.personId, personId),
        isNull(verdictEvent.undoes),
        sql`not exists (select 1 from verdict_event u where u.attempt_id = ${attemptId} and u.undoes = ${verdictEvent.id})`,
      ),
    )
    .orderBy(desc(verdictEvent.id))
    .limit(1)
    .get()
  return row && { id: row.id, change: JSON.parse(row.change) }
}

interface AttemptFacts {
  readonly id: number
  readonly caseId: number
  readonly environmentId: number
  readonly buildId: number
  readonly verdict: string
  readonly finishedAt: number
  readonly byMachine: number
  readonly version: number
  readonly fingerprint: string
  readonly versionRows: number
  readonly covered: number
  readonly openDefect: number
}
export type FinalAttempt = StandingAttempt & {
  readonly caseId: number
  readonly environmentId: number
  readonly buildId: number
  readonly fingerprint: string
}

/** Final attempts as standing results ask for them: of one place, or of builds up to an instant. */
export function finalAttempts(
  tx: Tx,
  of: {
    place?: { caseId: number; environmentId: number; buildId: number }
    builds?: readonly number[]
    until?: number
  },
): FinalAttempt[] {
  const { place } = of
  const where = place
    ? sql`a.case_id = ${place.caseId} and a.environment_id = ${place.environmentId} and a.build_id = ${place.buildId}`
    : of.builds
      ? inIds(sql`a.build_id`, of.builds)
      : sql`1`
  const until = of.until ?? Number.MAX_SAFE_INTEGER
  const rows = tx.all<AttemptFacts>(sql`
    select a.id, a.case_id as caseId, a.environment_id as environmentId, a.build_id as buildId, a.verdict, a.finished_at as finishedAt, a.by_machine as byMachine, a.version_id as version, v.fingerprint,
      (select count(*) from data_row d where d.version_id = a.version_id) as versionRows, (select count(*) from attempt_row r where r.attempt_id = a.id) as covered,
      exists(select 1 from defect_link l join defect d on d.id = l.defect_id where l.attempt_id = a.id and l.until_at is null and d.deleted_at is null and d.state not in ('Closed', 'Rejected')) as openDefect
    from attempt a join case_version v on v.id = a.version_id where ${where} and a.final = 1 and a.finished_at <= ${until}`)
  return rows.map((row) => ({
    id: row.id,
    caseId: row.caseId,
    environmentId: row.environmentId,
    buildId: row.buildId,
    verdict: finalVerdict.parse(row.verdict),
    finishedAt: row.finishedAt,
    byMachine: row.byMachine === 1,
    openDefect: row.openDefect === 1,
    version: row.version,
    fingerprint: row.fingerprint,
    versionRows: Math.max(1, row.versionRows),
    rows: row.covered >= row.versionRows ? whole(Math.max(1, row.versionRows)) : partialRows(tx, row.id),
  }))
}

const wholes = new Map<number, ReadonlyMap<number, Verdict>>()
/** All rows gone over: what each was does not matter, the attempt's own verdict answers. */
function whole(rows: number): ReadonlyMap<number, Verdict> {
  const made = wholes.get(rows) ?? new Map(Array.from({ length: rows }, (_, index) => [index + 1, 'Passed' as const]))
  wholes.set(rows, made)
  return made
}

const partialRows = (tx: Tx, attemptId: number): ReadonlyMap<number, Verdict> =>
  new Map(
    tx
      .all<{ row: number; verdict: string }>(
        sql`
    select r."row" as "row", case when sum(s.verdict = 'Failed') then 'Failed' when sum(s.verdict = 'Blocked') then 'Blocked' when sum(s.verdict = 'Inconclusive') then 'Inconclusive' when count(s.step_id) = 0 or sum(s.verdict in ('Not run', 'In progress')) then 'Not run' else 'Passed' end as verdict
    from attempt_row r left join attempt_step s on s.attempt_id = r.attempt_id and s."row" = r."row" where r.attempt_id = ${attemptId} group by r."row"`,
      )
      .map(({ row, verdict }) => [row, verdictShape.parse(verdict)]),
  )

export interface StandingStored {
  readonly buildId: number
  readonly caseId: number
  readonly environmentId: number
  readonly attemptId: number
  readonly verdict: string
  readonly finishedAt: number
  readonly fingerprint: string
  readonly disputedBy: number | null
}
export function putStanding(tx: Tx, of: StandingStored): void {
  const { buildId: _build, caseId: _case, environmentId: _environment, ...set } = of
  tx.insert(standingResult)
    .values(of)
    .onConflictDoUpdate({ target: [standingResult.buildId, standingResult.caseId, standingResult.environmentId], set })
    .run()
}
export const dropStanding = (tx: Tx, of: { buildId: number; caseId: number; environmentId: number }): void =>
  void tx
    .delete(standingResult)
    .where(
      and(
        eq(standingResult.buildId, of.buildId),
        eq(standingResult.caseId, of.caseId),
        eq(standingResult.environmentId, of.environmentId),
      ),
    )
    .run()

export const previousAttempts = (tx: Tx, caseId: number, except: number | null): Desk['before'] =>
  tx.all(sql`select a.id, a.verdict, b.name as build, e.name as environment, a.finished_at as at from attempt a join build b on b.id = a.build_id join environment e on e.id = a.environment_id
    where a.case_id = ${caseId} and a.final = 1 and a.id <> ${except ?? 0} order by a.finished_at desc, a.id desc limit 6`)

export const evidenceOf = (tx: Tx, projectKey: string, attemptId: number): Evidence[] =>
  tx
    .all<Omit<Evidence, 'url'>>(
      sql`select id, name, mime, size, "row", step_id as step, at from attachment where owner_kind = 'attempt' and owner_id = ${attemptId} and deleted_at is null order by id`,
    )
    .map((each) => ({ ...each, url: `/api/v1/projects/${projectKey}/evidence/${each.id}` }))

/** Of a project's people: which numbers of today's page are theirs. */
export const openItemsOf = (
  tx: Tx,
  projectId: number,
  personId: string,
): {
  id: number
  run: string
  runTitle: string
  case: string
  title: string
  environment: string
  verdict: string
  minutes: number
  dueOn: string | null
  importance: string
}[] =>
  tx.all(sql`
    select i.id, 'RN-' || r.number as run, r.title as runTitle, 'TC-' || c.number as "case", c.title, e.name as environment, i.verdict, ${itemMinutes} as minutes, coalesce(i.due_on, r.end_on) as dueOn, c.importance
    from item i join run r on r.id = i.run_id join test_case c on c.id = i.case_id join environment e on e.id = i.environment_id
    where i.assignee_id = ${personId} and i.verdict in ('Not run', 'In progress') and i.deleted_at is null and r.state = 'Open' and r.deleted_at is null and r.project_id = ${projectId}
    order by coalesce(i.due_on, r.end_on), case c.importance when 'Critical' then 0 when 'High' then 1 when 'Medium' then 2 else 3 end, i.position limit 500`)

/** What a case came to in a run, over its environments: the newest verdict given. */
export const verdictInRun = (tx: Tx, runId: number, caseId: number): string | undefined =>
  tx.get<{ verdict: string }>(
    sql`select i.verdict from item i left join attempt a on a.id = i.attempt_id where i.run_id = ${runId} and i.case_id = ${caseId} and i.deleted_at is null order by a.finished_at desc nulls last, i.id limit 1`,
  )?.verdict
