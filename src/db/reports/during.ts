import { sql } from 'drizzle-orm'
import type { Scope } from '#core/projects/scope.ts'
import type { Tx } from '#db/open.ts'
import { int, rowsOf } from '#db/rows.ts'

export interface FactsOf {
  readonly projectId: number
  readonly scope: Scope
  readonly approvalRequired: boolean
  /** The instant figures are told for; equal to now when the scope names none. */
  readonly asOf: number
}

/** A partial index serves the present; the past asks the interval. */
export const during = (of: FactsOf, table = 'link') => {
  const [from, until] = [sql.raw(`${table}.from_at`), sql.raw(`${table}.until_at`)]
  return of.scope.asOf === null
    ? sql`${until} is null`
    : sql`${from} <= ${of.asOf} and (${until} is null or ${until} > ${of.asOf})`
}

/** Cases a build touches, by what was said of it: those that prove a requirement of its components or branches. */
export function touchedBy(tx: Tx, of: FactsOf, said: string | null): ReadonlySet<number> | null {
  if (said === null) return null
  return new Set(
    rowsOf(
      tx,
      { case: int },
      sql`
        with recursive said(requirement) as (
          select value from json_each(${said}, '$.requirements')
          union
          select r.id
          from requirement r
          join said s on r.parent_id = s.requirement
        )
        select distinct l.case_id as "case"
        from link l
        join requirement r on r.id = l.requirement_id
        where l.project_id = ${of.projectId}
          and ${during(of, 'l')}
          and (
            r.id in (select requirement from said)
            or (r.component <> '' and r.component in (select value from json_each(${said}, '$.components')))
          )`,
    ).map((row) => row.case),
  )
}
