import { policyById } from '#db/projects/policies.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { isOpenDefect } from '#db/rules.ts'
import { and, eq, sql } from 'drizzle-orm'
import { isSeveral } from '#core/runs/several.ts'
import { type StandingAttempt, standingOnBuild } from '#core/runs/standing.ts'
import { type FinalVerdict, type Verdict, finalVerdict, rollUp } from '#core/lib/verdict.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { executedStepIds } from '#db/cases/uses.ts'
import { attemptMarks } from './attempts.ts'
import { attemptRow, standingResult } from './tables.ts'

interface AttemptFacts {
  readonly id: number
  readonly caseId: number
  readonly environmentId: number
  readonly buildId: number
  readonly verdict: string
  readonly word: string | null
  readonly finishedAt: number
  readonly byMachine: number
  readonly version: number
  readonly fingerprint: string
  readonly versionRows: number
  readonly covered: number
  readonly openDefect: number
  readonly policy: number | null
  readonly item: number | null
  readonly person: string | null
  readonly people: number | null
  readonly passes: number | null
}
export type FinalAttempt = StandingAttempt & {
  readonly caseId: number
  readonly environmentId: number
  readonly buildId: number
  readonly fingerprint: string
  readonly doubted: number
  readonly word: string | null
}

const finalShape = {
  id: int,
  caseId: int,
  environmentId: int,
  buildId: int,
  verdict: text,
  word: maybe(text),
  finishedAt: int,
  byMachine: int,
  version: int,
  fingerprint: text,
  versionRows: int,
  covered: int,
  openDefect: int,
  doubted: int,
  policy: maybe(int),
  item: maybe(int),
  person: maybe(text),
  people: maybe(int),
  passes: maybe(int),
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
  const rows = rowsOf(
    tx,
    finalShape,
    sql`
      select a.id, a.case_id as caseId, a.environment_id as environmentId, a.build_id as buildId, a.verdict, a.word,
        a.finished_at as finishedAt, a.by_machine as byMachine, a.version_id as version, v.fingerprint,
        (select count(*) from data_row d where d.version_id = a.version_id) as versionRows,
        (select count(*) from attempt_row r where r.attempt_id = a.id) as covered,
        exists(
          select 1
          from defect_link l
          join defect d on d.id = l.defect_id
          where l.attempt_id = a.id
            and l.until_at is null
            and d.deleted_at is null
            and ${isOpenDefect('d.state')}
        ) as openDefect,
        a.doubt is not null as doubted, a.policy_id as policy, a.item_id as item, a.person_id as person,
        i.people, i.passes
      from attempt a
      left join item i on i.id = a.item_id
      join case_version v on v.id = a.version_id
      where ${where} and a.final = 1 and a.struck is null and a.finished_at <= ${until}`,
  )
  return rows.map((row) => ({
    id: row.id,
    caseId: row.caseId,
    environmentId: row.environmentId,
    buildId: row.buildId,
    verdict: finalVerdict.parse(row.verdict),
    word: row.word,
    finishedAt: row.finishedAt,
    byMachine: row.byMachine === 1,
    openDefect: row.openDefect === 1,
    doubted: row.doubted,
    version: row.version,
    fingerprint: row.fingerprint,
    versionRows: Math.max(1, row.versionRows),
    several: severalOf(row),
    rows: row.covered >= row.versionRows ? whole(Math.max(1, row.versionRows)) : partialRows(tx, row),
  }))
}

const severalOf = ({ item, person, people, passes }: AttemptFacts): FinalAttempt['several'] =>
  item !== null && people !== null && passes !== null && isSeveral({ people }) ? { item, person, people, passes } : null

const wholes = new Map<number, ReadonlyMap<number, Verdict>>()
/** All rows gone over: what each was does not matter, the attempt's own verdict answers. */
function whole(rows: number): ReadonlyMap<number, Verdict> {
  const made = wholes.get(rows) ?? new Map(Array.from({ length: rows }, (_, index) => [index + 1, 'Passed' as const]))
  wholes.set(rows, made)
  return made
}

/** What each row that was gone over came to, by the same roll-up as everywhere. */
function partialRows(
  tx: Tx,
  { id, version, policy, verdict }: Pick<AttemptFacts, 'id' | 'version' | 'policy' | 'verdict'>,
): ReadonlyMap<number, Verdict> {
  const marks = new Map(attemptMarks(tx, id).map((mark) => [`${mark.row}:${mark.step}`, mark.verdict]))
  const steps = executedStepIds(tx, version)
  const rows = tx
    .select({ row: attemptRow.row, origin: attemptRow.origin })
    .from(attemptRow)
    .where(eq(attemptRow.attemptId, id))
    .all()
  // Where the tester decided, it was about all that was gone over.
  if (policyById(tx, policy).decides === 'tester')
    return new Map(rows.map(({ row, origin }) => [origin ?? row, finalVerdict.parse(verdict)]))
  return new Map(
    rows.map(({ row, origin }) => [
      origin ?? row,
      rollUp(steps.map((step) => marks.get(`${row}:${step}`) ?? 'Not run')) ?? 'Not run',
    ]),
  )
}

/** What some attempts at one place make stand there; nothing where nothing does. */
export function standsAmong(
  attempts: readonly FinalAttempt[],
): (StandingStored & { readonly verdict: FinalVerdict; readonly word: string | null }) | null {
  const standing = standingOnBuild(attempts)
  const own = standing && attempts.find(({ id }) => id === standing.attempt.id)
  return (
    (own && {
      caseId: own.caseId,
      environmentId: own.environmentId,
      buildId: own.buildId,
      attemptId: own.id,
      verdict: standing.verdict,
      word: own.verdict === standing.verdict ? own.word : null,
      finishedAt: own.finishedAt,
      fingerprint: own.fingerprint,
      disputedBy: standing.disputedBy,
      doubted: own.doubted,
    }) ??
    null
  )
}

export interface StandingStored {
  readonly buildId: number
  readonly caseId: number
  readonly environmentId: number
  readonly attemptId: number
  readonly verdict: string
  readonly finishedAt: number
  readonly fingerprint: string
  readonly disputedBy: number | null
  readonly doubted: number
}
export function putStanding(tx: Tx, of: StandingStored): void {
  const { buildId: _build, caseId: _case, environmentId: _environment, ...rest } = of
  const set = { ...rest, doubted: of.doubted === 1 }
  tx.insert(standingResult)
    .values({ ...of, ...set })
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
