import { sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { int, maybe, rowOf } from '#db/rows.ts'

/** What must be of one project, or of one case, told by the rows where it is not. */
const strays: readonly { name: string; what: string; rows: string }[] = [
  {
    name: 'link',
    what: 'links join a requirement and a case of different projects',
    rows: `link t join requirement r on r.id = t.requirement_id join test_case c on c.id = t.case_id
      where r.project_id <> t.project_id or c.project_id <> t.project_id`,
  },
  {
    name: 'link',
    what: 'links name a step of another case',
    rows: 'link t join step s on s.id = t.step_id where s.case_id <> t.case_id',
  },
  {
    name: 'item',
    what: 'items hold a case or an environment of another project than their run',
    rows: `item t join run r on r.id = t.run_id join test_case c on c.id = t.case_id join environment e on e.id = t.environment_id
      where c.project_id <> r.project_id or e.project_id <> r.project_id`,
  },
  {
    name: 'attempt',
    what: 'attempts are of another case, build or project than they say',
    rows: `attempt t join test_case c on c.id = t.case_id join case_version v on v.id = t.version_id
      join build b on b.id = t.build_id left join item i on i.id = t.item_id
      where c.project_id <> t.project_id or b.project_id <> t.project_id or v.case_id <> t.case_id or i.case_id <> t.case_id`,
  },
  {
    name: 'suite_pin',
    what: 'suites pin a case of another project',
    rows: `suite_pin t join suite s on s.id = t.suite_id join test_case c on c.id = t.case_id
      where c.project_id <> s.project_id`,
  },
  {
    name: 'suite_source',
    what: 'suites take cases from a requirement or a suite of another project',
    rows: `suite_source t join suite s on s.id = t.suite_id left join requirement r on r.id = t.requirement_id
      left join suite i on i.id = t.included_id
      where s.project_id <> t.project_id or r.project_id <> t.project_id or i.project_id <> t.project_id`,
  },
  {
    name: 'suite_member',
    what: 'suites were said to hold a case of another project',
    rows: `suite_member t join suite s on s.id = t.suite_id join test_case c on c.id = t.case_id
      where c.project_id <> s.project_id`,
  },
  {
    name: 'plan_suite',
    what: 'plans hold a suite of another project',
    rows: `plan_suite t join plan p on p.id = t.plan_id join suite s on s.id = t.suite_id
      where s.project_id <> p.project_id`,
  },
  {
    name: 'defect_link',
    what: 'defects point at a case, requirement or attempt of another project',
    rows: `defect_link t join defect d on d.id = t.defect_id left join test_case c on c.id = t.case_id
      left join requirement r on r.id = t.requirement_id left join attempt a on a.id = t.attempt_id
      where c.project_id <> d.project_id or r.project_id <> d.project_id or a.project_id <> d.project_id`,
  },
]

/** Rows that reach from one project or case into another. */
export const strayRows = (tx: Tx): { what: string; table: string; n: number; first: number | null }[] =>
  strays.flatMap(({ name, what, rows }) => {
    const key = name === 'suite_pin' ? 't.suite_id' : name === 'plan_suite' ? 't.plan_id' : 't.id'
    const found = rowOf(
      tx,
      { n: int, first: maybe(int) },
      sql`select count(*) as n, min(${sql.raw(key)}) as first from ${sql.raw(rows)}`,
    )
    return found && found.n > 0 ? [{ what, table: name, ...found }] : []
  })
