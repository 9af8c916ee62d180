import { valuesIn } from '#db/json.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { type Verdict, verdicts, verdict as verdictShape } from '#core/lib/verdict.ts'
import { executedStepIds } from '#db/cases/uses.ts'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import { type DefectState, defectStates } from '#core/defects/state.ts'
import { groupBy } from '#core/lib/group.ts'
import { inIds } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import {
  type Attempt,
  type AttemptChange,
  attemptIsFinal,
  attemptVerdict,
  attemptWord,
  type Mark,
} from '#core/runs/attempt.ts'
import type { Desk } from '#core/runs/desk-contract.ts'
import type { Tx } from '#db/open.ts'
import { policyById } from '#db/projects/policies.ts'
import { attempt, attemptRow, attemptStep } from './tables.ts'

export type AttemptStored = typeof attempt.$inferSelect

export const addAttempt = (tx: Tx, of: Omit<typeof attempt.$inferInsert, 'id'>): number =>
  tx.insert(attempt).values(of).returning({ id: attempt.id }).get().id
export const addAttemptRow = (
  tx: Tx,
  {
    values,
    ...of
  }: { attemptId: number; row: number; origin: number | null; values: Readonly<Record<string, string>> },
): void =>
  void tx
    .insert(attemptRow)
    .values({ ...of, values: JSON.stringify(values) })
    .run()
export const findAttempt = (tx: Tx, projectId: number, id: number): AttemptStored | undefined =>
  tx
    .select()
    .from(attempt)
    .where(and(eq(attempt.id, id), eq(attempt.projectId, projectId)))
    .get()

/** Why it is doubted; `null`: it is not any more. */
export const doubtAttempt = (tx: Tx, id: number, doubt: string | null, doubtId: number | null = null): void =>
  void tx.update(attempt).set({ doubt, doubtId }).where(eq(attempt.id, id)).run()

export const attemptRows = (tx: Tx, attemptId: number): Record<string, string>[] =>
  tx
    .select({ values: attemptRow.values })
    .from(attemptRow)
    .where(eq(attemptRow.attemptId, attemptId))
    .orderBy(attemptRow.row)
    .all()
    .map(({ values }) => valuesIn(values))

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
  Math.max(1, rowOf(tx, { n: int }, sql`select count(*) as n from attempt_row where attempt_id = ${attemptId}`)?.n ?? 0)

export const wholeOf = (stored: AttemptStored): Attempt['whole'] =>
  stored.wholeVerdict === null
    ? null
    : {
        verdict: verdictShape.parse(stored.wholeVerdict),
        word: stored.wholeWord,
        final: stored.wholeFinal,
        override: stored.overrideReason,
      }

/** The attempt as core rules see it. */
export function loadAttempt(tx: Tx, stored: AttemptStored): Attempt {
  return {
    rows: rowCount(tx, stored.id),
    steps: executedStepIds(tx, stored.versionId),
    marks: attemptMarks(tx, stored.id),
    whole: wholeOf(stored),
    decides: policyById(tx, stored.policyId).decides,
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

/** What is kept of an attempt beside its marks, worked out from them; `at` is when the last of them was given. */
export type AttemptState = Pick<
  AttemptStored,
  'verdict' | 'word' | 'final' | 'wholeVerdict' | 'wholeWord' | 'wholeFinal' | 'overrideReason' | 'finishedAt'
>
export function stateOf(of: Attempt, at: number): AttemptState & { readonly verdict: Verdict } {
  const final = attemptIsFinal(of)
  return {
    verdict: attemptVerdict(of),
    word: attemptWord(of),
    final,
    wholeVerdict: of.whole?.verdict ?? null,
    wholeWord: of.whole?.word ?? null,
    wholeFinal: of.whole?.final ?? true,
    overrideReason: of.whole?.override ?? null,
    finishedAt: final ? at : null,
  }
}

export const saveAttempt = (tx: Tx, id: number, edit: Partial<AttemptStored>): void =>
  void tx.update(attempt).set(edit).where(eq(attempt.id, id)).run()

/** What a case came to before; but for an attempt, and all at an item that others judge too. */
export const previousAttempts = (
  tx: Tx,
  caseId: number,
  except: { readonly attempt: number | null; readonly item?: number },
): Desk['before'] =>
  rowsOf(
    tx,
    { id: int, verdict: oneOf(verdicts), build: text, environment: text, at: maybe(int) },
    sql`
      select a.id, a.verdict, b.name as build, e.name as environment, a.finished_at as at
      from attempt a
      join build b on b.id = a.build_id
      join environment e on e.id = a.environment_id
      where a.case_id = ${caseId} and a.final = 1 and a.struck is null and a.id <> ${except.attempt ?? 0}
        and a.item_id is not ${except.item ?? 0}
      order by a.finished_at desc, a.id desc
      limit 6`,
  )

/** What a case came to in a run, over its environments: the newest verdict given. */
export const verdictInRun = (tx: Tx, runId: number, caseId: number): string | undefined =>
  rowOf(
    tx,
    { verdict: text },
    sql`
      select i.verdict
      from item i
      left join attempt a on a.id = i.attempt_id
      where i.run_id = ${runId} and i.case_id = ${caseId} and i.deleted_at is null
      order by a.finished_at desc nulls last, i.id
      limit 1`,
  )?.verdict

/** Defects linked to some attempts, by attempt. */
export const defectsOfAttempts = (
  tx: Tx,
  attempts: readonly number[],
): Map<number, { readonly attempt: number; readonly key: string; readonly state: DefectState }[]> =>
  groupBy(
    rowsOf(
      tx,
      { attempt: int, key: text, state: oneOf(defectStates) },
      sql`
        select distinct l.attempt_id as attempt, ${keySql('defect', 'd.number')} as key, d.state
        from defect_link l
        join defect d on d.id = l.defect_id
        where ${inIds(sql`l.attempt_id`, attempts)} and l.until_at is null and d.deleted_at is null
        order by d.number`,
    ),
    ({ attempt: of }) => of,
  )

/** The builds an item was executed on. */
export const buildsOfItem = (tx: Tx, itemId: number): number[] =>
  rowsOf(tx, { id: int }, sql`select distinct build_id as id from attempt where item_id = ${itemId}`).map(
    ({ id }) => id,
  )

/** The newest attempt of a person at an item. */
export const attemptOfPerson = (tx: Tx, itemId: number, personId: string): AttemptStored | undefined =>
  tx
    .select()
    .from(attempt)
    .where(and(eq(attempt.itemId, itemId), eq(attempt.personId, personId), isNull(attempt.struck)))
    .orderBy(desc(attempt.startedAt), desc(attempt.id))
    .limit(1)
    .get()
