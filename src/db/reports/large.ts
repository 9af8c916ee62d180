import { prefixes } from '#core/lib/key.ts'
import { sql } from 'drizzle-orm'
import type { Db } from '#db/open.ts'

export interface LargeRows {
  readonly now: number
  readonly cases: number
  readonly requirements: number
  readonly attempts: number
  readonly emptyFingerprint: string
  readonly requirement: (index: number) => {
    title: string
    branch: number | null
    likelihood: number
    impact: number
    component: string
  }
  readonly case: (index: number) => {
    title: string
    importance: string
    component: string
    requirement: number
    estimate: number
  }
  readonly attempt: () => { caseAt: number; buildAt: number; environmentAt: number; verdict: string; ageDays: number }
}
export interface LargeFrame {
  readonly projectId: number
  readonly releases: readonly number[]
  readonly builds: readonly number[]
  readonly environments: readonly number[]
}
const day = 86_400_000
const stepsPerCase = 5

/** Writes large made-up data with bare prepared statements: the query builder would take minutes. */
export function fillLarge(db: Db, frame: LargeFrame, rows: LargeRows): void {
  const sqlite = db.$client
  const insert: Insert = (table, columns) =>
    sqlite.prepare<(string | number | null | undefined)[]>(
      `insert into ${table} (${columns.map((name) => `"${name}"`).join(', ')}) values (${columns.map(() => '?').join(', ')})`,
    )
  sqlite.transaction(() => {
    const ids = fillRequirements(insert, frame, rows)
    const counter = insert('counter', ['project_id', 'prefix', 'next'])
    counter.run(frame.projectId, prefixes.requirement, rows.requirements + 1)
    counter.run(frame.projectId, prefixes.case, rows.cases + 1)
    counter.run(frame.projectId, prefixes.run, 2)
    const { caseIds, versionIds } = fillCases(insert, frame, rows, ids)
    fillAttempts(insert, frame, rows, { caseIds, versionIds })
    openRun(insert, frame, rows, caseIds)
    sqlite.prepare(standings).run()
  })()
  db.run(sql`analyze`)
}

/** The newest final attempt of a case on a build in an environment is what stands. */
const standings = `
  insert into standing_result (build_id, case_id, environment_id, attempt_id, verdict, finished_at, fingerprint)
  select build_id, case_id, environment_id, id, verdict, finished_at, fingerprint
  from (
    select a.*, v.fingerprint, row_number() over (
      partition by a.build_id, a.case_id, a.environment_id
      order by a.finished_at desc, a.id desc
    ) as place
    from attempt a
    join case_version v on v.id = a.version_id
    where a.final = 1
  )
  where place = 1`

/** Answers the ids of the requirements in their order. */
function fillRequirements(insert: Insert, frame: LargeFrame, rows: LargeRows): number[] {
  const requirement = insert('requirement', [
    'project_id',
    'number',
    'parent_id',
    'position',
    'title',
    'likelihood',
    'impact',
    'component',
    'state',
    'created_at',
    'updated_at',
  ])
  const revision = insert('requirement_revision', ['requirement_id', 'revision', 'title', 'text', 'at'])
  const ids: number[] = []
  const start = rows.now - 395 * day
  for (let index = 0; index < rows.requirements; index++) {
    const { branch, title, likelihood, impact, component } = rows.requirement(index)
    const parent = branch === null ? null : ids[branch]
    const place = [frame.projectId, index + 1, parent, index + 1]
    const { lastInsertRowid } = requirement.run(...place, title, likelihood, impact, component, 'Agreed', start, start)
    const id = Number(lastInsertRowid)
    revision.run(id, 1, title, '', start)
    ids.push(id)
  }
  return ids
}

type Insert = (
  table: string,
  columns: readonly string[],
) => { run: (...values: (string | number | null | undefined)[]) => { lastInsertRowid: number | bigint } }

function fillCases(insert: Insert, frame: LargeFrame, rows: LargeRows, requirementIds: readonly number[]) {
  const testCase = insert('test_case', [
    'project_id',
    'number',
    'position',
    'title',
    'importance',
    'component',
    'estimate',
    'steps',
    'state',
    'created_at',
    'updated_at',
    'newest_version_id',
  ])
  const version = insert('case_version', ['id', 'case_id', 'major', 'minor', 'state', 'fingerprint', 'created_at'])
  const step = insert('step', ['case_id'])
  const versionStep = insert('version_step', ['version_id', 'position', 'step_id', 'action', 'expected'])
  const link = insert('link', ['project_id', 'requirement_id', 'case_id', 'from_at', 'confirmed_revision'])
  const caseIds: number[] = []
  const versionIds: number[] = []
  const start = rows.now - 390 * day
  for (let index = 0; index < rows.cases; index++) {
    const of = rows.case(index)
    const [workingId, versionId] = [index * 2 + 1, index * 2 + 2]
    const fingerprint = ((index * 2654435761) % 4294967296).toString(16).padStart(16, '0')
    const id = Number(
      testCase.run(
        frame.projectId,
        index + 1,
        index + 1,
        of.title,
        of.importance,
        of.component,
        of.estimate,
        stepsPerCase,
        'Draft',
        start,
        start,
        versionId,
      ).lastInsertRowid,
    )
    version.run(workingId, id, null, null, 'Draft', fingerprint, start)
    version.run(versionId, id, 0, 1, 'Draft', fingerprint, start)
    for (let position = 1; position <= stepsPerCase; position++) {
      const stepId = Number(step.run(id).lastInsertRowid)
      for (const own of [workingId, versionId])
        versionStep.run(own, position, stepId, `Do part ${position} of ${of.title}`, `Part ${position} is done`)
    }
    link.run(frame.projectId, requirementIds[of.requirement], id, start, 1)
    caseIds.push(id)
    versionIds.push(versionId)
  }
  return { caseIds, versionIds }
}

function fillAttempts(
  insert: Insert,
  frame: LargeFrame,
  rows: LargeRows,
  of: { caseIds: readonly number[]; versionIds: readonly number[] },
): void {
  const attempt = insert('attempt', [
    'project_id',
    'case_id',
    'version_id',
    'environment_id',
    'build_id',
    'person_id',
    'verdict',
    'final',
    'started_at',
    'finished_at',
    'seconds',
  ])
  for (let index = 0; index < rows.attempts; index++) {
    const { caseAt, buildAt, environmentAt, verdict, ageDays } = rows.attempt()
    const at = Math.round(rows.now - ((19 - buildAt) * 18 + ageDays) * day)
    attempt.run(
      frame.projectId,
      of.caseIds[caseAt],
      of.versionIds[caseAt],
      frame.environments[environmentAt],
      frame.builds[buildAt],
      'bench',
      verdict,
      1,
      at - 300_000,
      at,
      300,
    )
  }
}

function openRun(insert: Insert, frame: LargeFrame, rows: LargeRows, caseIds: readonly number[]): void {
  const today = new Date(rows.now).toISOString().slice(0, 10)
  const run = insert('run', [
    'project_id',
    'number',
    'title',
    'release_id',
    'build_id',
    'state',
    'start_on',
    'end_on',
    'created_at',
    'updated_at',
  ])
  const runId = Number(
    run.run(
      frame.projectId,
      1,
      'Large run',
      frame.releases.at(-1),
      frame.builds.at(-1),
      'Open',
      today,
      today,
      rows.now,
      rows.now,
    ).lastInsertRowid,
  )
  const item = insert('item', ['run_id', 'case_id', 'environment_id', 'position', 'assignee_id'])
  caseIds
    .slice(0, 20_000)
    .forEach((caseId, index) =>
      item.run(runId, caseId, frame.environments[index % frame.environments.length], index + 1, 'bench'),
    )
}
