import { sql } from 'drizzle-orm'
import { importances } from '#core/cases/case.ts'
import type { MemberFacts } from '#core/plans/members.ts'
import { assumedRisk } from '#core/reports/coverage.ts'
import { outlineOrder } from '#core/requirements/outline.ts'
import { steadyMinutes } from '#db/cases/list.ts'
import { inIds } from '#db/finding/list.ts'
import { numbersIn } from '#db/json.ts'
import type { Tx } from '#db/open.ts'
import { outlinePlaces } from '#db/requirements/outline.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { isLiveCase } from '#db/rules.ts'
import type { SuiteKept } from './definitions.ts'

/** Live cases in the order of their numbers: where each stands, and how long it takes. */
export interface Live {
  readonly at: ReadonlyMap<number, number>
  readonly minutes: number[]
  readonly importance: number[]
}

const importanceRank = sql`
  case c.importance when 'Critical' then 0 when 'High' then 1 when 'Medium' then 2 else 3 end`

/** Reads anew what some cases say; answers whether the same of them are live as before. */
export function renewLive(tx: Tx, { at, minutes, importance }: Live, changed: readonly number[]): boolean {
  const rows = rowsOf(
    tx,
    { id: int, minutes: int, importance: int },
    sql`
      select c.id, ${steadyMinutes} as minutes, ${importanceRank} as importance
      from test_case c
      where ${inIds(sql`c.id`, changed)} and ${isLiveCase('c')}`,
  )
  const there = new Set(rows.map(({ id }) => id))
  if (changed.some((id) => at.has(id) !== there.has(id))) return false
  for (const row of rows) {
    const place = at.get(row.id) ?? -1
    minutes[place] = row.minutes
    importance[place] = row.importance
  }
  return true
}

/** Columns as one value each: of fifty thousand cases they are read several times faster than rows. */
export function liveCases(tx: Tx, projectId: number): Live {
  const told = rowOf(
    tx,
    { ids: text, minutes: text, importance: text },
    sql`
      select json_group_array(id) as ids, json_group_array(minutes) as minutes, json_group_array(importance) as importance
      from (
        select c.id, ${steadyMinutes} as minutes, ${importanceRank} as importance
        from test_case c
        where c.project_id = ${projectId} and ${isLiveCase('c')}
        order by c.number
      )`,
  )
  const ids = numbersIn(told?.ids ?? '')
  return {
    at: new Map(ids.map((id, at) => [id, at])),
    minutes: numbersIn(told?.minutes ?? ''),
    importance: numbersIn(told?.importance ?? ''),
  }
}

/** What members stand in order by; places, folders, outline and risk are read where the order asks for them alone. */
export function memberFacts(
  tx: Tx,
  projectId: number,
  { suite, order, live }: { readonly suite: number; readonly order: SuiteKept['order']; readonly live: Live },
): (id: number) => MemberFacts {
  const places = order === 'hand' ? placesIn(tx, suite) : new Map<number, number>()
  const folders = order === 'folder' ? foldersOf(tx, projectId) : new Map<number, number>()
  const proved = order === 'outline' || order === 'risk' ? provedBy(tx, projectId) : new Map<number, Proved>()
  return (id) => {
    const at = live.at.get(id) ?? 0
    return {
      number: at,
      importance: live.importance[at] ?? importances.length,
      risk: proved.get(id)?.risk ?? 0,
      outline: proved.get(id)?.outline ?? null,
      folder: folders.get(id) ?? null,
      place: places.get(id) ?? null,
    }
  }
}

/** Where somebody put a case by hand, else where it was pinned. */
const placesIn = (tx: Tx, suite: number): Map<number, number> =>
  new Map(
    rowsOf(
      tx,
      { id: int, place: int },
      sql`
        select case_id as id, position as place
        from suite_place
        where suite_id = ${suite}
        union all
        select p.case_id, p.position + 1000000
        from suite_pin p
        where p.suite_id = ${suite}
          and not exists (select 1 from suite_place l where l.suite_id = p.suite_id and l.case_id = p.case_id)`,
    ).map(({ id, place }) => [id, place]),
  )

/** Case → where its folder stands among the folders. */
function foldersOf(tx: Tx, projectId: number): Map<number, number> {
  const ranks = folderRanks(tx, projectId)
  return new Map(
    rowsOf(
      tx,
      { id: int, folder: int },
      sql`
        select id, folder_id as folder
        from test_case
        where project_id = ${projectId} and deleted_at is null and folder_id is not null`,
    ).flatMap(({ id, folder }) => {
      const rank = ranks.get(folder)
      return rank === undefined ? [] : [[id, rank] as const]
    }),
  )
}

function folderRanks(tx: Tx, projectId: number): Map<number, number> {
  const places = rowsOf(
    tx,
    { id: int, parent: maybe(int), position: int },
    sql`
      select id, parent_id as parent, position
      from folder
      where project_id = ${projectId} and deleted_at is null`,
  )
  return new Map(outlineOrder(places).map(({ place }, rank) => [place.id, rank]))
}

interface Proved {
  readonly outline: number | null
  readonly risk: number
}

/** The first place in the outline and the highest risk among the requirements of each case. */
function provedBy(tx: Tx, projectId: number): Map<number, Proved> {
  const ranks = new Map(outlineOrder(outlinePlaces(tx, projectId)).map(({ place }, rank) => [place.id, rank]))
  const links = rowsOf(
    tx,
    { case: int, requirement: int, risk: maybe(int) },
    sql`
      select l.case_id as "case", r.id as requirement, r.likelihood * r.impact as risk
      from link l
      join requirement r on r.id = l.requirement_id
      where l.project_id = ${projectId} and l.until_at is null and r.deleted_at is null and r.state <> 'Dropped'`,
  )
  const proved = new Map<number, Proved>()
  for (const link of links) {
    const before = proved.get(link.case)
    const rank = ranks.get(link.requirement) ?? Infinity
    proved.set(link.case, {
      outline: Math.min(before?.outline ?? Infinity, rank),
      risk: Math.max(before?.risk ?? 0, link.risk ?? assumedRisk),
    })
  }
  return proved
}
