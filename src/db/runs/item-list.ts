import { type SQL, sql } from 'drizzle-orm'
import { numberIn } from '#core/lib/key.ts'
import { contains } from '#db/finding/contains.ts'
import type { ListSource } from '#db/finding/list.ts'
import { itemMinutes } from './items.ts'
import { quarantineOfItem } from './quarantine.ts'
import { movedSince, spoiledBy, withPolicy } from './spoiled.ts'
import { waitOf } from './waits.ts'

const day = 86_400_000
const ofAttempt = (what: string, from = 'attempt y'): SQL =>
  sql.raw(`(select ${what} from ${from} where y.id = i.attempt_id)`)

/** What is known of its execution, as fields of a list. */
const executionFields = (now: number): ListSource['fields'] => ({
  executedBy: ofAttempt('z.name', 'attempt y left join person z on z.id = y.person_id'),
  executedOn: ofAttempt('z.name', 'attempt y join build z on z.id = y.build_id'),
  executed: sql`cast((${now} - ${ofAttempt('y.finished_at')}) / ${day} as integer)`,
  word: ofAttempt('y.word'),
  spoiled: spoiledBy,
  waits: waitOf,
  people: sql`i.people`,
  quarantined: sql`case when ${quarantineOfItem} is null then 'no' else 'yes' end`,
  moved: sql`case when ${movedSince} then 'yes' else 'no' end`,
  free: sql`case when i.assignee_id is null and i.attempt_id is null then 'yes' else 'no' end`,
})

export const itemSource = (runId: number, now = 0): ListSource => ({
  id: sql`i.id`,
  from: sql`item i join test_case c on c.id = i.case_id join environment e on e.id = i.environment_id left join person p on p.id = i.assignee_id join run u on u.id = i.run_id ${withPolicy}`,
  where: sql`i.run_id = ${runId} and i.deleted_at is null`,
  fields: {
    id: sql`i.id`,
    case: sql`c.number`,
    title: sql`c.title`,
    environment: sql`e.name`,
    assignee: sql`p.name`,
    verdict: sql`i.verdict`,
    estimate: itemMinutes,
    importance: sql`c.importance`,
    component: sql`c.component`,
    folder: sql`(select f.name from folder f where f.id = c.folder_id)`,
    requirement: sql`
      (
        select r.title
        from link l
        join requirement r on r.id = l.requirement_id
        where l.case_id = i.case_id and l.until_at is null and r.deleted_at is null
        order by r.number
        limit 1
      )`,
    suite: sql`
      (
        select s.title
        from run_suite z
        join suite_member m on m.suite_id = z.suite_id
        join suite s on s.id = z.suite_id
        where z.run_id = i.run_id and m.case_id = i.case_id and m.until_at is null
        order by s.number
        limit 1
      )`,
    ...executionFields(now),
  },
  related: {
    reason: {
      expression: sql`j.value`,
      some: (holds) => sql`
        exists (
          select 1
          from json_each('["' || replace(i.reasons, ',', '","') || '"]') j
          where ${holds}
        )`,
    },
  },
  search: (word) =>
    numberIn('case', word) > 0
      ? sql`(c.number = ${numberIn('case', word)})`
      : sql`(${contains(sql`c.title`, word)} or ${contains(sql`e.name`, word)})`,
  defaultSort: sql`i.position`,
})
