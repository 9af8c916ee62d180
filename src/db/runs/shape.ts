import { sql } from 'drizzle-orm'
import type { SplitWay } from '#core/runs/shape-contract.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { lastPlace } from './item-scope.ts'

/** Items of a run by what it would be split by, each group with its name; the largest group first. */
export function groupsOf(tx: Tx, runId: number, by: SplitWay): { name: string; ids: number[] }[] {
  const rows = rowsOf(
    tx,
    { id: int, name: maybe(text) },
    by === 'tester'
      ? sql`
          select i.id, p.name
          from item i
          left join person p on p.id = i.assignee_id
          where i.run_id = ${runId} and i.deleted_at is null
          order by i.position`
      : by === 'environment'
        ? sql`
            select i.id, e.name
            from item i
            join environment e on e.id = i.environment_id
            where i.run_id = ${runId} and i.deleted_at is null
            order by i.position`
        : sql`
            with recursive up (case_id, id, parent_id) as (
              select l.case_id, r.id, r.parent_id
              from link l
              join requirement r on r.id = l.requirement_id
              where l.until_at is null
                and r.deleted_at is null
                and l.case_id in (select case_id from item where run_id = ${runId} and deleted_at is null)
              union
              select u.case_id, r.id, r.parent_id
              from up u
              join requirement r on r.id = u.parent_id
            )
            select i.id,
              (
                select r.title
                from up u
                join requirement r on r.id = u.id
                where u.case_id = i.case_id and u.parent_id is null
                order by r.position, r.id
                limit 1
              ) as name
            from item i
            where i.run_id = ${runId} and i.deleted_at is null
            order by i.position`,
  )
  const nobody = by === 'tester' ? 'nobody' : 'no requirement'
  const groups = new Map<string, number[]>()
  for (const { id, name } of rows) groups.set(name ?? nobody, [...(groups.get(name ?? nobody) ?? []), id])
  return [...groups]
    .map(([name, ids]) => ({ name, ids }))
    .sort((a, b) => b.ids.length - a.ids.length || (a.name < b.name ? -1 : 1))
}

/** Moves items into another run behind what is there, but for those that are in it by now; answers what was moved. */
export function moveItems(tx: Tx, from: number, to: number, ids: readonly number[] | null): number[] {
  const last = lastPlace(tx, to)
  return rowsOf(
    tx,
    { id: int },
    sql`
      update item
      set run_id = ${to}, position = ${last} + position
      where run_id = ${from}
        and deleted_at is null
        and ${ids === null ? sql`1` : inIds(sql`id`, ids)}
        and not exists (
          select 1
          from item t
          where t.run_id = ${to}
            and t.case_id = item.case_id
            and t.environment_id = item.environment_id
            and t.deleted_at is null
        )
      returning id`,
  ).map(({ id }) => id)
}

export const itemCount = (tx: Tx, runId: number): number =>
  rowOf(tx, { n: int }, sql`select count(*) as n from item where run_id = ${runId} and deleted_at is null`)?.n ?? 0

/** How many attempts were made at items of some runs. */
export const attemptsIn = (tx: Tx, runs: readonly number[]): number =>
  rowOf(
    tx,
    { n: int },
    sql`
      select count(*) as n
      from item i
      join attempt a on a.item_id = i.id
      where ${inIds(sql`i.run_id`, runs)}`,
  )?.n ?? 0
