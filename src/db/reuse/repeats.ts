import { int, rowsOf, text } from '#db/rows.ts'
import { isLiveCase } from '#db/rules.ts'
import { sql } from 'drizzle-orm'
import type { Sequence } from '#core/reuse/repeats.ts'
import { groupBy } from '#core/lib/group.ts'
import type { Tx } from '#db/open.ts'
import { useOf, useRow, useShape } from '#db/cases/uses.ts'

export interface LiveSteps extends Sequence {
  readonly title: string
}

/** What every live case of a project says in its working copy. */
export function liveSteps(tx: Tx, projectId: number): LiveSteps[] {
  const cases = rowsOf(
    tx,
    { id: int, title: text, version: int },
    sql`
      select c.id, c.title, v.id as version
      from test_case c
      join case_version v on v.case_id = c.id and v.major is null
      where c.project_id = ${projectId} and ${isLiveCase('c')}
      order by c.number`,
  )
  const steps = groupBy(
    rowsOf(
      tx,
      {
        ...useShape,
        version: int,
        action: text,
        expected: text,
        data: text,
      },
      sql`
        select s.version_id as version, s.action, s.expected, s.data, ${useRow}
        from version_step s
        join case_version v on v.id = s.version_id and v.major is null
        join test_case c on c.id = v.case_id
        where c.project_id = ${projectId} and ${isLiveCase('c')}
        order by s.version_id, s.position`,
    ),
    ({ version }) => version,
  )
  return cases.map(({ id, title, version }) => ({
    id,
    title,
    steps: (steps.get(version) ?? []).map(({ action, expected, data, ...row }) => ({
      action,
      expected,
      data,
      use: useOf(row),
    })),
  }))
}
