import { type SQL, sql } from 'drizzle-orm'
import { groupBy } from '#core/lib/group.ts'
import { isCaseTestable, latestTarget, type Scope } from '#core/projects/scope.ts'
import { inIds } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowsOf, text } from '#db/rows.ts'

interface NotYet {
  readonly id: number
  /** `2.4 from Iteration 3`. */
  readonly from: string
}

const target = { release: int, releasePosition: int, iterationPosition: maybe(int), name: text }

/** Live cases that cannot be tested yet in a scope, each with the latest of what it waits for; of some cases where they are named. */
export function notYetTestable(
  tx: Tx,
  projectId: number,
  { release, iteration }: Pick<Scope, 'release' | 'iteration'>,
  cases?: readonly number[],
): NotYet[] {
  if (release === null) return []
  const among = (column: SQL) => (cases ? inIds(column, cases) : sql`1`)
  const own = rowsOf(
    tx,
    { id: int, ...target },
    sql`
      select c.id, e.id as "release", e.position as releasePosition, i.position as iterationPosition,
        e.name || coalesce(' from ' || i.name, '') as name
      from test_case c
      join release e on e.id = c.from_release_id
      left join iteration i on i.id = c.from_iteration_id
      where c.project_id = ${projectId} and c.from_release_id is not null and c.deleted_at is null
        and ${among(sql`c.id`)}`,
  )
  const byHand = new Map(own.map((row) => [row.id, row]))
  const linked = rowsOf(
    tx,
    { id: int, requirement: int, ...target },
    sql`
      select l.case_id as id, r.id as requirement, e.id as "release", e.position as releasePosition,
        i.position as iterationPosition, e.name || coalesce(' from ' || i.name, '') as name
      from requirement_target t
      join requirement r on r.id = t.requirement_id
      join release e on e.id = t.release_id
      left join iteration i on i.id = t.iteration_id
      join link l on l.requirement_id = r.id and l.until_at is null
      where r.project_id = ${projectId} and r.deleted_at is null and r.state <> 'Dropped'
        and ${among(sql`l.case_id`)}`,
  )
  const all = groupBy(linked, ({ id }) => id)
  const ids = new Set([...byHand.keys(), ...all.keys()])
  return [...ids].flatMap((id): NotYet[] => {
    const hand = byHand.get(id)
    const targets = all.get(id) ?? []
    const requirements = [...groupBy(targets, ({ requirement }) => requirement).values()]
    if (isCaseTestable({ own: hand ?? null, requirements }, release.position, iteration?.position ?? null)) return []
    return [{ id, from: latestTarget(hand ? [hand] : targets)?.name ?? '' }]
  })
}
