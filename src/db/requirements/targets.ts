import { int, maybe, rowsOf, text } from '#db/rows.ts'
import { eq, sql } from 'drizzle-orm'
import { groupBy } from '#core/lib/group.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { requirementTarget } from './tables.ts'

/** The targets of many requirements by one statement. */
export function targetsOfMany(
  tx: Tx,
  ids: readonly number[],
): Map<number, { release: number; iteration: number | null; name: string }[]> {
  const rows = rowsOf(
    tx,
    { id: int, release: int, iteration: maybe(int), name: text },
    sql`
      select t.requirement_id as id, t.release_id as "release", t.iteration_id as iteration,
        e.name || coalesce(' from ' || i.name, '') as name
      from requirement_target t
      join "release" e on e.id = t.release_id
      left join iteration i on i.id = t.iteration_id
      where ${inIds(sql`t.requirement_id`, ids)}
      order by t.requirement_id, t.release_id`,
  )
  const byId = groupBy(rows, ({ id }) => id)
  return new Map(
    ids.map((id) => [id, (byId.get(id) ?? []).map(({ release, iteration, name }) => ({ release, iteration, name }))]),
  )
}

/** Gives many requirements the same targets. */
export function setManyTargets(
  tx: Tx,
  ids: readonly number[],
  targets: readonly { release: number; iteration: number | null }[],
): void {
  tx.run(sql`delete from requirement_target where ${inIds(sql`requirement_id`, ids)}`)
  for (const { release, iteration } of targets)
    tx.run(
      sql`
        insert into requirement_target (requirement_id, release_id, iteration_id)
        select value, ${release}, ${iteration}
        from json_each(${JSON.stringify(ids)})`,
    )
}

export function setTargets(
  tx: Tx,
  requirementId: number,
  targets: readonly { release: number; iteration: number | null }[],
): void {
  tx.delete(requirementTarget).where(eq(requirementTarget.requirementId, requirementId)).run()
  for (const { release, iteration } of targets)
    tx.insert(requirementTarget).values({ requirementId, releaseId: release, iterationId: iteration }).run()
}

export const targetsOf = (
  tx: Tx,
  requirementId: number,
): { release: number; releaseName: string; iteration: number | null; iterationName: string | null }[] =>
  rowsOf(
    tx,
    { release: int, releaseName: text, iteration: maybe(int), iterationName: maybe(text) },
    sql`
      select t.release_id as "release", e.name as releaseName, t.iteration_id as iteration,
        i.name as iterationName
      from requirement_target t
      join release e on e.id = t.release_id
      left join iteration i on i.id = t.iteration_id
      where t.requirement_id = ${requirementId}
      order by e.position`,
  )
