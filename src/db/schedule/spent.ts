import { sql } from 'drizzle-orm'
import type { MinutesRow, SpentBy } from '#core/schedule/minutes-contract.ts'
import { farOff } from '#core/schedule/estimates.ts'
import { keySql } from '#db/key-sql.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { minutesOf } from '#db/rules.ts'
import type { Tx } from '#db/open.ts'

/** As `isFarOff` tells it. */
const isFar = sql`(
  c.estimate is not null and (
    (c.estimate > ${farOff} * l.minutes and c.estimate > l.high)
    or (l.minutes > ${farOff} * c.estimate and c.estimate < l.low)
  )
)`

/** Cases with what attempts taught of them, those whose given minutes are furthest off first. */
export function minutesRows(
  tx: Tx,
  projectId: number,
  of: { readonly far: boolean; readonly cursor: number; readonly limit: number },
): { rows: MinutesRow[]; total: number; far: number } {
  const live = sql`
    from test_case c
    join learned_minutes l on l.case_id = c.id and l.environment_id = 0
    where c.project_id = ${projectId} and c.deleted_at is null and c.retired_at is null`
  const counts = rowOf(tx, { total: int, far: maybe(int) }, sql`select count(*) as total, sum(${isFar}) as far ${live}`)
  const rows = rowsOf(
    tx,
    {
      id: int,
      key: text,
      title: text,
      component: text,
      given: maybe(int),
      learned: int,
      low: int,
      high: int,
      n: int,
      far: int,
    },
    sql`
      select c.id, ${keySql('case', 'c.number')} as key, c.title, c.component, c.estimate as given, l.minutes as learned,
        l.low, l.high, l.n, ${isFar} as far
      ${live} and ${of.far ? isFar : sql`1`}
      order by ${isFar} desc, abs(ln(coalesce(c.estimate, l.minutes) / l.minutes)) desc, c.number
      limit ${of.limit}
      offset ${of.cursor}`,
  )
  const far = counts?.far ?? 0
  return {
    rows: rows.map((row) => ({ ...row, far: row.far === 1 })),
    total: of.far ? far : (counts?.total ?? 0),
    far,
  }
}

export const modelOf = (tx: Tx, projectId: number) =>
  rowOf(
    tx,
    { base: int, steps: int, rows: int, spread: int, n: int, at: int },
    sql`
      select base, steps, "rows", spread, n, at
      from minutes_model
      where project_id = ${projectId} and environment_id = 0`,
  ) ?? null

/** Attempts with a time that teaches, since an instant: what they were planned to take, and took. */
export function spentOf(
  tx: Tx,
  projectId: number,
  of: { readonly by: SpentBy; readonly since: number; readonly personId: string },
): { name: string; attempts: number; planned: number; spent: number }[] {
  const ways = {
    environment: { name: sql`e.name`, join: sql`` },
    component: { name: sql`iif(c.component = '', 'no component', c.component)`, join: sql`` },
    suite: {
      name: sql`s.title`,
      join: sql`
        join suite_member m on m.case_id = a.case_id and m.until_at is null
        join suite s on s.id = m.suite_id and s.deleted_at is null`,
    },
    me: { name: sql`${keySql('case', 'c.number')} || ' ' || c.title`, join: sql`` },
  } as const
  const { name, join } = ways[of.by]
  return rowsOf(
    tx,
    { name: text, attempts: int, planned: int, spent: int },
    sql`
      select ${name} as name, count(*) as attempts, sum(${minutesOf(['c.estimate'], 'a.environment_id')}) as planned,
        sum(a.seconds) / 60.0 as spent
      from attempt a
      join test_case c on c.id = a.case_id
      join environment e on e.id = a.environment_id
      ${join}
      where a.project_id = ${projectId}
        and a.finished_at >= ${of.since}
        and a.final = 1
        and a.struck is null
        and a.by_machine = 0
        and a.timing <> 'shared'
        and a.seconds > 0
        and ${of.by === 'me' ? sql`a.person_id = ${of.personId}` : sql`1`}
      group by 1
      order by spent desc
      limit 200`,
  )
}
