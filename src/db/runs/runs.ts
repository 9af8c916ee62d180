import { isFinal, type Verdict, verdicts } from '#core/lib/verdict.ts'
import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { runStates } from '#core/runs/state.ts'
import { isOpenVerdict } from '#db/rules.ts'
import { keySql } from '#db/key-sql.ts'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { RunRow, RunSheet } from '#core/runs/contract.ts'
import { inIds, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { tagsOf } from '#db/projects/fields.ts'
import { item, run, runPerson } from './tables.ts'
import { contains } from '#db/finding/contains.ts'
import { itemMinutes } from './items.ts'
import { spoiledBy, withPolicy } from './spoiled.ts'

export type RunStored = typeof run.$inferSelect
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
    tags: sql`(select group_concat(g.tag, ', ') from tagging g where g.owner_kind = 'run' and g.owner_id = t.id)`,
  },
  search: (word) => contains(sql`t.title`, word),
  defaultSort: sql`case t.state when 'Open' then 0 when 'Planned' then 1 else 2 end, t.number desc`,
})

export function runRows(tx: Tx, projectId: number, ids: readonly number[]): RunRow[] {
  const rows = rowsOf(
    tx,
    {
      number: int,
      release: text,
      id: int,
      key: text,
      state: oneOf(runStates),
      startOn: text,
      plan: maybe(text),
      title: text,
      version: int,
      build: text,
      endOn: text,
    },
    sql`
      select t.id, ${keySql('run', 't.number')} as key, t.number, t.title, t.state, t.version,
        (select ${keySql('plan', 'number')} from plan where id = t.plan_id) as plan, r.name as "release",
        b.name as build, t.start_on as startOn, t.end_on as endOn
      from run t
      join release r on r.id = t.release_id
      join build b on b.id = t.build_id
      where t.project_id = ${projectId} and t.deleted_at is null and ${inIds(sql`t.id`, ids)}`,
  )
  const counts = rowsOf(
    tx,
    { runId: int, verdict: oneOf(verdicts), n: int, minutes: int, spoiled: int },
    sql`
      select i.run_id as runId, i.verdict, ${spoiledBy} is not null as spoiled, count(*) as n,
        sum(${itemMinutes}) as minutes
      from item i
      join run u on u.id = i.run_id
      ${withPolicy}
      join test_case c on c.id = i.case_id
      where i.deleted_at is null and ${inIds(sql`i.run_id`, ids)}
      group by 1, 2, 3`,
  )
  const tags = tagsOf(tx, 'run', ids)
  return ids.flatMap((id) => {
    const row = rows.find((each) => each.id === id)
    if (!row) return []
    const own = counts.filter(({ runId }) => runId === id)
    const total = (of: (row: { n: number; minutes: number; verdict: Verdict; spoiled: number }) => number) =>
      own.reduce((sum, each) => sum + of(each), 0)
    return [
      {
        ...row,
        tags: tags.get(id) ?? [],
        verdicts: sumBy(own),
        spoiled: total(({ n, spoiled }) => (spoiled === 1 ? n : 0)),
        items: total(({ n }) => n),
        minutes: total(({ minutes }) => minutes),
        done: total(({ n, verdict, spoiled }) => (isFinal(verdict) && spoiled === 0 ? n : 0)),
      },
    ]
  })
}

function sumBy(rows: readonly { readonly verdict: Verdict; readonly n: number }[]): Record<string, number> {
  const sums: Record<string, number> = {}
  for (const { verdict, n } of rows) sums[verdict] = (sums[verdict] ?? 0) + n
  return sums
}

export const findRun = (tx: Tx, projectId: number, number: number): RunStored | undefined =>
  tx
    .select()
    .from(run)
    .where(and(eq(run.projectId, projectId), eq(run.number, number), isNull(run.deletedAt)))
    .get()
export const runOfItem = (tx: Tx, itemId: number): RunStored | undefined =>
  tx.select({ run }).from(item).innerJoin(run, eq(run.id, item.runId)).where(eq(item.id, itemId)).get()?.run
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
/** A run is marked deleted at an instant no person can delete at, until all its items are there. */
export const stagedAt = 1
export const showRun = (tx: Tx, id: number): void =>
  void tx.run(sql`update run set deleted_at = null where id = ${id} and deleted_at = ${stagedAt}`)
export function dropStagedRun(tx: Tx, id: number): void {
  tx.run(sql`delete from item where run_id = (select id from run where id = ${id} and deleted_at = ${stagedAt})`)
  tx.run(sql`delete from run where id = ${id} and deleted_at = ${stagedAt}`)
}
/** Runs that were being made when the process ended. */
export const stagedRuns = (tx: Tx): number[] =>
  rowsOf(tx, { id: int }, sql`select id from run where deleted_at = ${stagedAt}`).map(({ id }) => id)

export const saveRun = (tx: Tx, id: number, edit: Partial<RunStored>): void =>
  void tx.update(run).set(edit).where(eq(run.id, id)).run()

/** Notes which suites a run was made of. */
export const setRunSuites = (tx: Tx, runId: number, suiteIds: readonly number[]): void =>
  void tx.run(sql`
    insert or ignore into run_suite (run_id, suite_id)
    select ${runId}, value
    from json_each(${JSON.stringify(suiteIds)})`)
export function setTeam(tx: Tx, runId: number, people: readonly string[]): void {
  tx.delete(runPerson).where(eq(runPerson.runId, runId)).run()
  for (const personId of people) tx.insert(runPerson).values({ runId, personId }).run()
}
/** Puts somebody into the team of a run; answers the run. */
export function joinTeam(tx: Tx, runId: number, personId: string): { id: number; number: number } {
  tx.insert(runPerson).values({ runId, personId }).onConflictDoNothing().run()
  return { id: runId, number: runById(tx, runId)?.number ?? 0 }
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
  rowsOf(
    tx,
    { id: text, name: text, items: int, minutes: int, left: int },
    sql`
      select p.id, p.name, coalesce(x.items, 0) as items, coalesce(x.minutes, 0) as minutes,
        coalesce(x.remaining, 0) as "left"
      from person p
      left join (
        select i.assignee_id as who, count(*) as items, sum(${itemMinutes}) as minutes,
          sum(case when ${isOpenVerdict('i.verdict')} then ${itemMinutes} else 0 end) as remaining
        from item i
        join test_case c on c.id = i.case_id
        where i.run_id = ${runId} and i.deleted_at is null
        group by 1
      ) x on x.who = p.id
      where p.id in (select person_id from run_person where run_id = ${runId}) or x.who is not null
      order by p.name`,
  )
