import { and, eq, sql } from 'drizzle-orm'
import { learning, type Minutes, type MinutesModel, type Sample } from '#core/schedule/estimates.ts'
import type { Tx } from '#db/open.ts'
import { int, rowsOf } from '#db/rows.ts'
import { learnedMinutes, minutesModel } from './tables.ts'

/** Attempts that teach: of people, to their end, with a time that was measured or typed, and not shared out over many. */
const teaches = sql`a.final = 1 and a.struck is null and a.by_machine = 0 and a.timing <> 'shared' and a.seconds > 0`

/** Where what attempts taught is kept that holds for all environments of a case together. */
export const anywhere = 0

/** Minutes of the newest attempts of a case that teach, in an environment or anywhere, the newest first. */
export const minutesSpent = (tx: Tx, caseId: number, environmentId: number): number[] =>
  rowsOf(
    tx,
    { seconds: int },
    sql`
      select a.seconds
      from attempt a
      where a.case_id = ${caseId}
        and ${environmentId === anywhere ? sql`1` : sql`a.environment_id = ${environmentId}`}
        and ${teaches}
      order by a.finished_at desc, a.id desc
      limit ${learning.newest}`,
  ).map(({ seconds }) => seconds / 60)

/** The same of all cases of a project at once, as rows in the order of cases and then of time, the newest first. */
export const allMinutesSpent = (
  tx: Tx,
  projectId: number,
): { caseId: number; environmentId: number; seconds: number }[] =>
  rowsOf(
    tx,
    { caseId: int, environmentId: int, seconds: int },
    sql`
      select a.case_id as caseId, a.environment_id as environmentId, a.seconds
      from attempt a
      where a.project_id = ${projectId} and ${teaches}
      order by a.case_id, a.finished_at desc, a.id desc`,
  )

export type LearnedStored = Minutes & { readonly caseId: number; readonly environmentId: number }

export const learnedOf = (tx: Tx, projectId: number): LearnedStored[] =>
  rowsOf(
    tx,
    { caseId: int, environmentId: int, minutes: int, low: int, high: int, n: int },
    sql`
      select l.case_id as caseId, l.environment_id as environmentId, l.minutes, l.low, l.high, l.n
      from learned_minutes l
      join test_case c on c.id = l.case_id
      where c.project_id = ${projectId}`,
  )

/** What a renewal has to store. */
export interface RenewedMinutes {
  /** What is kept otherwise than attempts teach; `null` where nothing is to be kept. */
  readonly changed: readonly {
    readonly at: { caseId: number; environmentId: number }
    readonly from: LearnedStored | null
    readonly to: LearnedStored | null
  }[]
  readonly model: MinutesModel | null
}

/** Keeps what was learned of a case in an environment; `null`: nothing is. */
export function putLearned(tx: Tx, at: { caseId: number; environmentId: number }, learned: Minutes | null): void {
  if (learned)
    tx.insert(learnedMinutes)
      .values({ ...at, ...learned })
      .onConflictDoUpdate({ target: [learnedMinutes.caseId, learnedMinutes.environmentId], set: { ...learned } })
      .run()
  else
    tx.delete(learnedMinutes)
      .where(and(eq(learnedMinutes.caseId, at.caseId), eq(learnedMinutes.environmentId, at.environmentId)))
      .run()
}

/** How long cases are, for the regression: steps, and data rows of the newest version. */
export const caseShapes = (tx: Tx, projectId: number): (Pick<Sample, 'steps' | 'rows'> & { readonly id: number })[] =>
  rowsOf(
    tx,
    { id: int, steps: int, rows: int },
    sql`
      select c.id, c.steps, (select count(*) from data_row d where d.version_id = c.newest_version_id) as "rows"
      from test_case c
      where c.project_id = ${projectId} and c.deleted_at is null`,
  )

export function putModel(tx: Tx, projectId: number, model: MinutesModel | null, at: number): void {
  tx.delete(minutesModel).where(eq(minutesModel.projectId, projectId)).run()
  if (!model) return
  const { base, steps, rows, spread, n } = model
  const own = { projectId, steps, rows, spread, n, at }
  tx.insert(minutesModel)
    .values([
      { ...own, environmentId: anywhere, base },
      ...[...model.factors].map(([environmentId, factor]) => ({ ...own, environmentId, base: base * factor })),
    ])
    .run()
}
