import { type SQL, sql } from 'drizzle-orm'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { isLiveCase, isOpenDefect, isOpenVerdict } from '#db/rules.ts'
import type { Tx } from '#db/open.ts'

// What is somebody's to do: items that wait to be executed and defects nobody has closed.

const openItems = sql`
  item i
  join run r on r.id = i.run_id and r.deleted_at is null and r.state in ('Planned', 'Open')`
const isWaiting = sql`${isOpenVerdict('i.verdict')} and i.deleted_at is null`

/** Rows of `project_id` and `person`, one for each thing that is still to be done by people who are `who`, a condition such as `= 'mira'`. */
export const openWork = (who: SQL): SQL => sql`
  select r.project_id, i.assignee_id as person
  from ${openItems}
  where i.assignee_id ${who} and ${isWaiting}
  union all
  select d.project_id, d.owner_id as person
  from defect d
  where d.owner_id ${who} and ${isOpenDefect('d.state')} and d.deleted_at is null`

export const openItemIds = (tx: Tx, projectId: number, personId: string): { id: number; run: number }[] =>
  rowsOf(
    tx,
    { id: int, run: int },
    sql`
      select i.id, r.id as run
      from ${openItems}
      where i.assignee_id = ${personId} and r.project_id = ${projectId} and ${isWaiting}
      order by r.id, i.position`,
  )

export const openDefectsOf = (
  tx: Tx,
  projectId: number,
  personId: string,
): { id: number; number: number; title: string; state: string }[] =>
  rowsOf(
    tx,
    { id: int, number: int, title: text, state: text },
    sql`
      select id, number, title, state
      from defect
      where project_id = ${projectId} and owner_id = ${personId} and ${isOpenDefect('state')} and deleted_at is null
      order by number`,
  )

/** Requirements and cases a person owns. */
export const ownedIds = (tx: Tx, what: 'requirement' | 'case', projectId: number, personId: string): number[] =>
  rowsOf(
    tx,
    { id: int },
    what === 'case'
      ? sql`
        select c.id from test_case c
        where c.project_id = ${projectId} and c.owner_id = ${personId} and ${isLiveCase('c')}
        order by c.id`
      : sql`
        select id from requirement
        where project_id = ${projectId} and owner_id = ${personId} and deleted_at is null
        order by id`,
  ).map(({ id }) => id)

/** Attempts a person brought to a verdict in the project, and when the last of them ended. */
export const attemptsOf = (tx: Tx, projectId: number, personId: string): { attempts: number; lastAt: number | null } =>
  rowOf(
    tx,
    { attempts: int, lastAt: maybe(int) },
    sql`
      select count(*) as attempts, max(finished_at) as lastAt
      from attempt
      where person_id = ${personId} and project_id = ${projectId} and final = 1 and struck is null`,
  ) ?? { attempts: 0, lastAt: null }
