import { and, desc, eq, inArray, lt, sql } from 'drizzle-orm'
import { z } from 'zod'
import { type Saying, saying } from '#core/plans/definition.ts'
import type { PlanVersionRow } from '#core/plans/versions-contract.ts'
import type { SlotSet } from '#core/plans/asks.ts'
import { signAnswers } from '#core/plans/state.ts'
import { groupBy } from '#core/lib/group.ts'
import { inIds } from '#db/finding/list.ts'
import { numbersIn } from '#db/json.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { plan, planSignature, planVersion } from './tables.ts'

type Stored = typeof planVersion.$inferSelect
export type VersionStored = Omit<Stored, 'definition'> & { readonly definition: readonly Saying[] }

const read = (row: Stored): VersionStored => ({
  ...row,
  definition: z.array(saying).parse(JSON.parse(row.definition)),
})

/** A version of a plan by its number. */
export function findPlanVersion(tx: Tx, planId: number, number: number): VersionStored | undefined {
  const row = tx
    .select()
    .from(planVersion)
    .where(and(eq(planVersion.planId, planId), eq(planVersion.number, number)))
    .get()
  return row && read(row)
}

/** The newest version in one of these states, before another where one is named. */
export function lastVersion(
  tx: Tx,
  planId: number,
  states: readonly Stored['state'][],
  before = Number.MAX_SAFE_INTEGER,
): VersionStored | undefined {
  const row = tx
    .select()
    .from(planVersion)
    .where(and(eq(planVersion.planId, planId), lt(planVersion.number, before), inArray(planVersion.state, [...states])))
    .orderBy(desc(planVersion.number))
    .limit(1)
    .get()
  return row && read(row)
}

/** Writes a version down, with every case it asks for; answers its id and number. */
export function addPlanVersion(
  tx: Tx,
  of: Omit<typeof planVersion.$inferInsert, 'number' | 'definition'> & { readonly definition: readonly Saying[] },
  slots: ReadonlyMap<number, readonly SlotSet[]>,
): { id: number; number: number } {
  const last =
    rowOf(tx, { n: maybe(int) }, sql`select max(number) as n from plan_version where plan_id = ${of.planId}`)?.n ?? 0
  const made = tx
    .insert(planVersion)
    .values({ ...of, number: last + 1, definition: JSON.stringify(of.definition) })
    .returning({ id: planVersion.id, number: planVersion.number })
    .get()
  const rows = [...slots].flatMap(([id, sets]) => sets.map((set, place) => [id, place, JSON.stringify(set)]))
  tx.run(sql`
    insert into plan_version_slot (version_id, case_id, place, environments)
    select ${made.id}, value ->> 0, value ->> 1, value ->> 2
    from json_each(${JSON.stringify(rows)})`)
  return made
}

export const savePlanVersion = (tx: Tx, id: number, edit: Partial<Omit<Stored, 'definition'>>): void =>
  void tx.update(planVersion).set(edit).where(eq(planVersion.id, id)).run()

export function askSignatures(tx: Tx, versionId: number, people: readonly string[]): void {
  for (const personId of new Set(people)) tx.insert(planSignature).values({ versionId, personId }).run()
}

export const sign = (
  tx: Tx,
  of: { readonly versionId: number; readonly personId: string },
  said: { readonly answer: (typeof signAnswers)[number]; readonly words: string; readonly at: number },
): void =>
  void tx
    .update(planSignature)
    .set(said)
    .where(and(eq(planSignature.versionId, of.versionId), eq(planSignature.personId, of.personId)))
    .run()

type Signature = PlanVersionRow['signatures'][number]

/** Who was asked about versions, by version, with what they answered. */
export function signaturesOf(tx: Tx, versions: readonly number[]): Map<number, Signature[]> {
  const rows = rowsOf(
    tx,
    {
      version: int,
      id: text,
      name: text,
      answer: maybe(oneOf(signAnswers)),
      words: text,
      at: maybe(int),
    },
    sql`
      select s.version_id as version, s.person_id as id, coalesce(p.name, 'somebody') as name, s.answer, s.words, s.at
      from plan_signature s
      left join person p on p.id = s.person_id
      where ${inIds(sql`s.version_id`, versions)}
      order by s.version_id, p.name`,
  )
  return new Map(
    [...groupBy(rows, ({ version }) => version)].map(([version, own]) => [
      version,
      own.map(({ version: _, ...row }) => row),
    ]),
  )
}

/** Versions of a plan, the newest first, of those before `before`. */
export function versionRows(
  tx: Tx,
  planId: number,
  { before, limit }: { readonly before?: number | undefined; readonly limit: number },
): PlanVersionRow[] {
  const rows = rowsOf(
    tx,
    {
      id: int,
      version: int,
      state: oneOf(planVersion.state.enumValues),
      note: text,
      by: maybe(text),
      at: int,
      endedAt: maybe(int),
      cases: int,
    },
    sql`
      select v.id, v.number as version, v.state, v.note, p.name as by, v.at, v.ended_at as endedAt,
        (select count(distinct case_id) from plan_version_slot where version_id = v.id) as cases
      from plan_version v
      left join person p on p.id = v.person_id
      where v.plan_id = ${planId} and v.number < ${before ?? Number.MAX_SAFE_INTEGER}
      order by v.number desc
      limit ${limit}`,
  )
  const signatures = signaturesOf(
    tx,
    rows.map(({ id }) => id),
  )
  return rows.map(({ id, ...row }) => ({ ...row, signatures: signatures.get(id) ?? [] }))
}

/** What a version asks for, by case. */
function slotsOfVersion(tx: Tx, versionId: number): Map<number, SlotSet[]> {
  const rows = rowsOf(
    tx,
    { case: int, environments: text },
    sql`
      select case_id as "case", environments
      from plan_version_slot
      where version_id = ${versionId}
      order by case_id, place`,
  )
  return new Map(
    [...groupBy(rows, (row) => row.case)].map(([id, own]) => [
      id,
      own.map(({ environments }) => numbersIn(environments)),
    ]),
  )
}

/** What plans were frozen with, of those that were by an instant. */
export function frozenSlots(
  tx: Tx,
  plans: readonly number[],
  asOf: number | null,
): Map<number, Map<number, SlotSet[]>> {
  const frozen = rowsOf(
    tx,
    { plan: int, version: int },
    sql`
      select l.id as "plan", v.id as version
      from plan l
      join plan_version v on v.id = l.frozen_version_id
      where ${inIds(sql`l.id`, plans)} and (${asOf} is null or coalesce(v.ended_at, v.at) <= ${asOf})`,
  )
  return new Map(frozen.map((row) => [row.plan, slotsOfVersion(tx, row.version)]))
}

/** Cases as a version has them, or as a plan's suites have them as was last written down. */
type Membership = { readonly version: number } | { readonly plan: number }
const casesOf = (of: Membership) =>
  'version' in of
    ? sql`select case_id from plan_version_slot where version_id = ${of.version}`
    : sql`
      select m.case_id
      from plan_suite s
      join suite u on u.id = s.suite_id
      join suite_member m on m.suite_id = s.suite_id
      where s.plan_id = ${of.plan} and u.deleted_at is null and m.until_at is null`

/** How many cases are in the first and not in the second. */
export const countOnlyIn = (tx: Tx, one: Membership, other: Membership): number =>
  rowOf(
    tx,
    { n: int },
    sql`select count(*) as n from (select distinct case_id from (${casesOf(one)}) where case_id not in (${casesOf(other)}))`,
  )?.n ?? 0

/** The first of the cases that are in the first and not in the second. */
export const onlyIn = (tx: Tx, one: Membership, other: Membership, most: number): { key: string; title: string }[] =>
  rowsOf(
    tx,
    { key: text, title: text },
    sql`
      select ${keySql('case', 'c.number')} as key, c.title
      from test_case c
      where c.id in (${casesOf(one)}) and c.id not in (${casesOf(other)})
      order by c.number
      limit ${most}`,
  )

/** What number a version has. */
export const versionNumber = (tx: Tx, id: number): number | null =>
  rowOf(tx, { number: int }, sql`select number from plan_version where id = ${id}`)?.number ?? null

/** Versions that wait for a person to sign them. */
export const versionsAskedOf = (tx: Tx, projectId: number, personId: string) =>
  rowsOf(
    tx,
    { ref: text, title: text, version: int, by: maybe(text), at: int },
    sql`
      select ${keySql('plan', 'l.number')} as ref, l.title, v.number as version, p.name as by, v.at
      from plan_signature s
      join plan_version v on v.id = s.version_id
      join plan l on l.id = v.plan_id
      left join person p on p.id = v.person_id
      where s.person_id = ${personId}
        and s.answer is null
        and v.state = 'In review'
        and v.project_id = ${projectId}
        and l.deleted_at is null
      order by v.at`,
  )

/** Versions of plans that hold a suite, the newest first. */
export const versionsHolding = (tx: Tx, suiteId: number, limit: number) =>
  rowsOf(
    tx,
    { key: text, version: int, at: int },
    sql`
      select ${keySql('plan', 'l.number')} as key, v.number as version, v.at
      from plan_suite s
      join plan l on l.id = s.plan_id
      join plan_version v on v.plan_id = l.id
      where s.suite_id = ${suiteId} and l.deleted_at is null
      order by v.at desc
      limit ${limit}`,
  )

/** Plans of a release that are there. */
export const plansOfRelease = (tx: Tx, releaseId: number): (typeof plan.$inferSelect)[] =>
  tx
    .select()
    .from(plan)
    .where(and(eq(plan.releaseId, releaseId), sql`deleted_at is null`))
    .all()
