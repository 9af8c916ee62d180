import { type SQL, sql } from 'drizzle-orm'
import { ofRequirements, type OwnFields } from '#core/finding/fields.ts'
import type { ListSource, Related } from '#db/finding/list.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { customFields, ownFieldSql } from '#db/projects/fields.ts'
import { requirementId, requirementSource } from '#db/requirements/list.ts'
import { caseId, caseSource } from './list.ts'

export const ownFieldsOf = (tx: Tx, projectId: number): OwnFields => ({
  case: customFields(tx, projectId, 'case'),
  requirement: customFields(tx, projectId, 'requirement'),
})

/** All that can be asked of cases: their fields, the project's own, those of their requirements, and the suites they are in. */
export function caseAskSource(projectId: number, own: OwnFields, now = 0): ListSource {
  const source = caseSource(projectId, now)
  const ofRequirement = { ...requirementSource(projectId, now).fields, ...ownFieldSql(own.requirement, requirementId) }
  const related = Object.entries(ofRequirement).map(([name, expression]): [string, Related] => [
    `${ofRequirements}${name}`,
    {
      expression,
      some: (holds) => sql`
        exists (
          select 1
          from link l
          join requirement r on r.id = l.requirement_id
          where l.case_id = ${caseId} and l.until_at is null and r.deleted_at is null and ${holds}
        )`,
    },
  ])
  return {
    ...source,
    fields: { ...source.fields, ...ownFieldSql(own.case, caseId) },
    related: { ...Object.fromEntries(related), suite: inSuite, ...executed },
  }
}

const ofAttempt = (expression: SQL): Related => ({
  expression,
  some: (holds) => sql`
    exists (
      select 1
      from attempt a
      left join person p on p.id = a.person_id
      where a.case_id = ${caseId} and a.final = 1 and a.struck is null and ${holds}
    )`,
})
const ofDefect = (expression: SQL): Related => ({
  expression,
  some: (holds) => sql`
    exists (
      select 1
      from defect_link l
      join defect d on d.id = l.defect_id
      left join person p on p.id = d.owner_id
      where l.case_id = ${caseId} and l.until_at is null and d.deleted_at is null and ${holds}
    )`,
})

/** What was found out about a case by executing it. */
const executed: Readonly<Record<string, Related>> = {
  tester: ofAttempt(sql`p.name`),
  earlier: ofAttempt(sql`a.verdict`),
  'defect.state': ofDefect(sql`d.state`),
  'defect.severity': ofDefect(sql`d.severity`),
  'defect.owner': ofDefect(sql`p.name`),
}

const inSuite: Related = {
  expression: sql`(${keySql('suite', 's.number')})`,
  some: (holds) => sql`
    exists (
      select 1
      from suite_member m
      join suite s on s.id = m.suite_id
      where m.case_id = ${caseId} and m.until_at is null and s.deleted_at is null and ${holds}
    )`,
}
