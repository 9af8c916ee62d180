import { sql } from 'drizzle-orm'
import type { Acquaintance } from '#core/runs/dealing.ts'
import type { Tx } from '#db/open.ts'
import { staffOf } from '#db/people/members.ts'
import { tagsOf } from '#db/projects/fields.ts'
import { int, rowsOf, text } from '#db/rows.ts'

export interface Knowing extends Acquaintance {
  readonly case: number
  readonly person: string
}

/** What people of a project have to do with cases: their skills, and what they did at the requirements of each. Nobody else is named. */
export function knowingOf(
  tx: Tx,
  projectId: number,
  of: { cases: readonly number[]; people: readonly string[] },
): Knowing[] {
  const found = new Map<string, { case: number; person: string; skills: number; attempts: number; defects: number }>()
  const at = (own: number, person: string) => {
    const key = `${own}/${person}`
    const there = found.get(key) ?? { case: own, person, skills: 0, attempts: 0, defects: 0 }
    found.set(key, there)
    return there
  }
  for (const { case: own, person, n } of attemptsNear(tx, of)) at(own, person).attempts = n
  for (const { case: own, person, n } of defectsNear(tx, of)) at(own, person).defects = n
  const words = wordsOfCases(tx, of.cases)
  const skilled = staffOf(tx, projectId).filter(({ id, skills }) => of.people.includes(id) && skills.length > 0)
  for (const { id, skills } of skilled)
    for (const [own, said] of words) {
      const n = skills.filter((skill) => said.has(skill.trim().toLowerCase())).length
      if (n > 0) at(own, id).skills = n
    }
  return [...found.values()]
}

const counted = { case: int, person: text, n: int }
type Near = { readonly cases: readonly number[]; readonly people: readonly string[] }

/** Cases that share a requirement with one of ours, and those themselves. */
const near = (cases: readonly number[]) => sql`
  ours as (select value as id from json_each(${JSON.stringify(cases)})),
  near as (
    select o.id as own, m.case_id as other
    from ours o
    join link l on l.case_id = o.id and l.until_at is null
    join link m on m.requirement_id = l.requirement_id and m.until_at is null
    union
    select id, id from ours
  )`

const attemptsNear = (tx: Tx, { cases, people }: Near) =>
  rowsOf(
    tx,
    counted,
    sql`
      with ${near(cases)},
      made as (
        select a.case_id, a.person_id, count(*) as n
        from attempt a
        where a.case_id in (select other from near)
          and a.final = 1
          and a.struck is null
          and a.person_id in (select value from json_each(${JSON.stringify(people)}))
        group by 1, 2
      )
      select n.own as "case", m.person_id as person, sum(m.n) as n
      from near n
      join made m on m.case_id = n.other
      group by 1, 2`,
  )

const defectsNear = (tx: Tx, { cases, people }: Near) =>
  rowsOf(
    tx,
    counted,
    sql`
      with ${near(cases)}
      select n.own as "case", d.reporter_id as person, count(distinct d.id) as n
      from near n
      join defect_link l on l.case_id = n.other and l.until_at is null
      join defect d on d.id = l.defect_id
      where d.deleted_at is null and d.reporter_id in (select value from json_each(${JSON.stringify(people)}))
      group by 1, 2`,
  )

/** The component of each case and its tags, in small letters. */
/** What cases are tagged with, and their component, in small letters: skills are found in it. */
export function wordsOfCases(tx: Tx, cases: readonly number[]): Map<number, Set<string>> {
  const tags = tagsOf(tx, 'case', cases)
  return new Map(
    rowsOf(
      tx,
      { id: int, component: text },
      sql`select id, component from test_case where id in (select value from json_each(${JSON.stringify(cases)}))`,
    ).map(({ id, component }) => [
      id,
      new Set([component, ...(tags.get(id) ?? [])].map((word) => word.trim().toLowerCase()).filter(Boolean)),
    ]),
  )
}
