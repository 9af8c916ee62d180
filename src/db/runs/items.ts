import { int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { finalVerdicts, type Verdict, verdicts } from '#core/lib/verdict.ts'
import { isOpenVerdict, minutesOf } from '#db/rules.ts'
import { groupBy } from '#core/lib/group.ts'
import { numbersIn } from '#db/json.ts'
import { inOrder } from '#core/lib/in-order.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, isNull, type SQL, sql } from 'drizzle-orm'
import type { Desk } from '#core/runs/desk-contract.ts'
import { type RunReason, runReasons } from '#core/runs/compose.ts'
import { isSeveral, verdictOfSeveral, type Voice } from '#core/runs/several.ts'
import { waitState } from '#core/runs/waits.ts'
import { spoilers } from '#core/projects/policy.ts'
import type { ItemRow } from '#core/runs/item-row.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { owingItems } from './owed.ts'
import { movedSince, spoiledBy, withPolicy } from './spoiled.ts'
import { quarantineOfItem } from './quarantine.ts'
import { item, run } from './tables.ts'
import { waitsOfItems, waitsOfRun } from './waits.ts'

export type ItemStored = typeof item.$inferSelect

/** Minutes of an item: given, else its case's own, else learned there or elsewhere, else from its steps. */
export const itemMinutes = minutesOf(['i.estimate', 'c.estimate'], 'i.environment_id')

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

/** Cases and environments of runs, each once; of what is deleted nothing. As columns, which are read several times faster than rows. */
export function slotsOfRuns(tx: Tx, runs: readonly number[]): { case: number; environment: number }[] {
  const told = rowOf(
    tx,
    { cases: text, environments: text },
    sql`
      select json_group_array(case_id) as cases, json_group_array(environment_id) as environments
      from (
        select distinct i.case_id, i.environment_id
        from item i
        join run r on r.id = i.run_id
        where ${inIds(sql`i.run_id`, runs)} and i.deleted_at is null and r.deleted_at is null
        order by i.case_id, i.environment_id
      )`,
  )
  const environments = numbersIn(told?.environments ?? '')
  return numbersIn(told?.cases ?? '').map((id, at) => ({ case: id, environment: environments[at] ?? 0 }))
}

/** Why the environment of an item is out of use now; of one that was begun: was when its attempt ended. */
const outageOf = (now: number): SQL => sql`
  (
    select o.reason
    from outage o
    where o.environment_id = i.environment_id
      and o.deleted_at is null
      and o.from_at <= coalesce(a.finished_at, a.started_at, ${now})
      and (o.until_at is null or o.until_at > coalesce(a.finished_at, a.started_at, ${now}))
    limit 1
  )`

const itemCells = {
  id: int,
  position: int,
  dueOn: maybe(text),
  at: maybe(int),
  by: maybe(text),
  title: text,
  environment: text,
  environmentId: int,
  build: maybe(text),
  component: text,
  importance: text,
  estimate: maybe(int),
  caseId: int,
  assigneeId: maybe(text),
  verdict: oneOf(verdicts),
  case: text,
  attempt: maybe(int),
  minutes: int,
  assignee: maybe(text),
  defects: maybe(text),
  stands: maybe(oneOf(finalVerdicts)),
  outage: maybe(text),
  reasons: text,
  word: maybe(text),
  spoiled: maybe(oneOf(spoilers)),
  moved: int,
  quarantine: maybe(text),
  people: int,
  passes: int,
}

export function itemRows(tx: Tx, runId: number, ids: readonly number[], now: number): ItemRow[] {
  const rows = rowsOf(
    tx,
    itemCells,
    sql`
      select i.id, ${keySql('case', 'c.number')} as "case", c.id as caseId, c.title, c.importance,
        c.component, e.name as environment, e.id as environmentId, p.name as assignee, i.assignee_id as assigneeId, i.estimate,
        ${itemMinutes} as minutes, i.verdict, i.due_on as dueOn, i.position, i.attempt_id as attempt,
        a.finished_at as at, x.name as by, b.name as build,
        (
          select group_concat(distinct ${keySql('defect', 'd.number')})
          from defect_link l
          join defect d on d.id = l.defect_id
          where l.attempt_id = i.attempt_id and l.until_at is null and d.deleted_at is null
        ) as defects,
        (
          select s.verdict
          from standing_result s
          where s.build_id = coalesce(a.build_id, u.build_id)
            and s.case_id = i.case_id
            and s.environment_id = i.environment_id
            and s.attempt_id is not i.attempt_id
        ) as stands,
        ${outageOf(now)} as outage, i.reasons, a.word, ${spoiledBy} as spoiled, ${movedSince} as moved,
        ${quarantineOfItem} as quarantine, i.people, i.passes
      from item i
      join run u on u.id = i.run_id
      ${withPolicy}
      join test_case c on c.id = i.case_id
      join environment e on e.id = i.environment_id
      left join person p on p.id = i.assignee_id
      left join attempt a on a.id = i.attempt_id
      left join person x on x.id = a.person_id
      left join build b on b.id = a.build_id
      where i.run_id = ${runId} and i.deleted_at is null and ${inIds(sql`i.id`, ids)}`,
  )
  const owing = new Map(owingItems(tx, runId, ids).map((each) => [each.item, each.owed]))
  const waits = waitsOfItems(tx, ids)
  const voices = voicesOf(
    tx,
    rows.flatMap(({ id, people }) => (isSeveral({ people }) ? [id] : [])),
  )
  return inOrder(ids, rows).map(({ defects, reasons, moved, people, passes, ...row }) => ({
    ...row,
    several: isSeveral({ people }) ? { people, passes, said: voices.get(row.id) ?? [] } : null,
    waits: waits.get(row.id) ?? [],
    moved: moved === 1,
    owed: owing.get(row.id) ?? [],
    defects: defects?.split(',') ?? [],
    reasons: reasonsIn(reasons),
  }))
}

/** Stored with commas. */
const reasonsIn = (text: string): RunReason[] => runReasons.filter((reason) => text.split(',').includes(reason))

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
): (Omit<ItemStored, 'held' | 'reasons' | 'droppedReason' | 'fingerprint' | 'people' | 'passes'> & {
  minutes: number
  verdict: Verdict
})[] =>
  rowsOf(
    tx,
    {
      id: int,
      position: int,
      dueOn: maybe(text),
      deletedAt: maybe(int),
      runId: int,
      estimate: maybe(int),
      caseId: int,
      environmentId: int,
      assigneeId: maybe(text),
      verdict: oneOf(verdicts),
      attemptId: maybe(int),
      minutes: int,
    },
    sql`
      select i.id, i.run_id as runId, i.case_id as caseId, i.environment_id as environmentId, i.position,
        i.assignee_id as assigneeId, i.estimate, i.due_on as dueOn, i.verdict, i.attempt_id as attemptId,
        i.deleted_at as deletedAt, ${itemMinutes} as minutes
      from item i
      join test_case c on c.id = i.case_id
      where i.run_id = ${runId} and i.deleted_at is null and ${ids === null ? sql`1` : inIds(sql`i.id`, ids)}
      order by i.position`,
  )

/** The item of a run that is for a case in an environment. */
export const itemAt = (
  tx: Tx,
  at: { readonly runId: number; readonly caseId: number; readonly environmentId: number },
): ItemStored | undefined =>
  tx
    .select()
    .from(item)
    .where(
      and(
        eq(item.runId, at.runId),
        eq(item.caseId, at.caseId),
        eq(item.environmentId, at.environmentId),
        isNull(item.deletedAt),
      ),
    )
    .get()

export const itemById = (tx: Tx, id: number): ItemStored | undefined =>
  tx.select().from(item).where(eq(item.id, id)).get()

/** Of several attempts at one item the newest begun is the item's own. */
const newestBegun = sql.raw('order by a.started_at desc, a.id desc limit 1')

/** What an item is by its attempts, whatever is stored of it. */
export const itemByAttempts = (tx: Tx, id: number): Pick<ItemStored, 'attemptId' | 'verdict'> => {
  const own = rowOf(
    tx,
    { id: int, verdict: oneOf(verdicts), people: int, passes: int },
    sql`
      select a.id, a.verdict, i.people, i.passes
      from attempt a
      join item i on i.id = a.item_id
      where a.item_id = ${id} and a.struck is null ${newestBegun}`,
  )
  if (!own) return { attemptId: null, verdict: 'Not run' }
  const voices = isSeveral(own) ? (voicesOf(tx, [id]).get(id) ?? []) : null
  const verdict = voices
    ? verdictOfSeveral(
        voices.map((voice) => voice.verdict),
        own,
        true,
      )
    : own.verdict
  return { attemptId: own.id, verdict }
}

/** The newest final verdict of each who judged an item. */
function voicesOf(tx: Tx, ids: readonly number[]): Map<number, Voice[]> {
  if (ids.length === 0) return new Map()
  const rows = rowsOf(
    tx,
    { item: int, person: maybe(text), verdict: oneOf(verdicts) },
    sql`
      select item_id as item, name as person, verdict
      from (
        select a.item_id, p.name, a.verdict,
          row_number() over (partition by a.item_id, a.person_id order by a.finished_at desc, a.id desc) as newest
        from item i
        cross join attempt a on a.item_id = i.id
        left join person p on p.id = a.person_id
        where a.final = 1 and a.struck is null and ${inIds(sql`i.id`, ids)}
      )
      where newest = 1
      order by item_id, name`,
  )
  return new Map(
    [...groupBy(rows, (row) => row.item)].map(([of, own]) => [
      of,
      own.map(({ person, verdict }) => ({ person, verdict })),
    ]),
  )
}

/** Items that are not what their attempts say. */
export const wrongItems = (tx: Tx): { id: number; run: string; verdict: string; wanted: string | null }[] => [
  ...rowsOf(
    tx,
    { id: int, run: text, verdict: text, wanted: maybe(text) },
    sql`
      select i.id, ${keySql('run', 'r.number')} as run, i.verdict, n.verdict as wanted
      from item i
      join run r on r.id = i.run_id
      left join attempt n on n.id = (select a.id from attempt a where a.item_id = i.id and a.struck is null ${newestBegun})
      where i.attempt_id is not n.id or (i.people = 1 and i.verdict <> coalesce(n.verdict, 'Not run'))
      order by i.id`,
  ),
  ...rowsOf(
    tx,
    { id: int, run: text, verdict: text, wanted: maybe(text) },
    sql`
      select i.id, ${keySql('run', 'r.number')} as run, i.verdict, null as wanted
      from item i
      join run r on r.id = i.run_id
      where i.people > 1
      order by i.id`,
  ).flatMap((row) => {
    const { verdict: wanted } = itemByAttempts(tx, row.id)
    return wanted === row.verdict ? [] : [{ ...row, wanted }]
  }),
]

export const saveItem = (tx: Tx, id: number, edit: Partial<ItemStored>): void =>
  void tx.update(item).set(edit).where(eq(item.id, id)).run()

/** The open items a person's desk goes through: their own first when `personId` is given. */
export function queueOf(tx: Tx, runId: number, personId: string | null): Desk['queue'] {
  const waits = waitsOfRun(tx, runId)
  return rowsOf(
    tx,
    {
      id: int,
      case: text,
      title: text,
      minutes: int,
      verdict: oneOf(verdicts),
      environment: text,
    },
    sql`
      select i.id, ${keySql('case', 'c.number')} as "case", c.title, ${itemMinutes} as minutes, i.verdict,
        e.name as environment
      from item i
      join test_case c on c.id = i.case_id
      join environment e on e.id = i.environment_id
      where i.run_id = ${runId}
        and i.deleted_at is null ${personId === null ? sql`` : sql`and i.assignee_id = ${personId}`}
      order by i.position`,
  ).map((row) => ({ ...row, waits: waitState(waits.get(row.id) ?? [], row.verdict) }))
}

export const requirementsOfCase = (tx: Tx, caseId: number): { id: number; key: string; title: string }[] =>
  rowsOf(
    tx,
    { id: int, key: text, title: text },
    sql`
      select distinct r.id, ${keySql('requirement', 'r.number')} as key, r.title
      from link l
      join requirement r on r.id = l.requirement_id
      where l.case_id = ${caseId} and l.until_at is null and r.deleted_at is null
      order by r.number`,
  )

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
  plannedOn: string | null
  importance: string
}[] =>
  rowsOf(
    tx,
    {
      id: int,
      run: text,
      runTitle: text,
      case: text,
      title: text,
      environment: text,
      verdict: text,
      minutes: int,
      dueOn: maybe(text),
      plannedOn: maybe(text),
      importance: text,
    },
    sql`
      select i.id, ${keySql('run', 'r.number')} as run, r.title as runTitle,
        ${keySql('case', 'c.number')} as "case", c.title, e.name as environment, i.verdict,
        ${itemMinutes} as minutes, coalesce(i.due_on, r.end_on) as dueOn, w.day as plannedOn, c.importance
      from item i
      left join item_place w on w.item_id = i.id and w.person_id = i.assignee_id
      join run r on r.id = i.run_id
      join test_case c on c.id = i.case_id
      join environment e on e.id = i.environment_id
      where i.assignee_id = ${personId}
        and ${isOpenVerdict('i.verdict')}
        and i.deleted_at is null
        and r.state = 'Open'
        and r.deleted_at is null
        and r.project_id = ${projectId}
      order by coalesce(w.day, i.due_on, r.end_on), w.start is null, w.start, coalesce(i.due_on, r.end_on),
        case c.importance when 'Critical' then 0 when 'High' then 1 when 'Medium' then 2 else 3 end, i.position
      limit 500`,
  )

/** Items attempts were made for, by attempt; those that are not there any more are left out. */
export const itemsOfAttempts = (tx: Tx, attempts: readonly number[]): Map<number, number> =>
  new Map(
    rowsOf(
      tx,
      { id: int, item: int },
      sql`
        select a.id, i.id as item
        from attempt a
        join item i on i.id = a.item_id
        where ${inIds(sql`a.id`, attempts)} and i.deleted_at is null`,
    ).map(({ id, item: of }) => [id, of]),
  )
