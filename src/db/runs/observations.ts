import { type SQL, sql } from 'drizzle-orm'
import type { Observation, Possible } from '#core/runs/share.ts'
import { groupBy } from '#core/lib/group.ts'
import { valuesIn } from '#db/json.ts'
import { environmentValues } from '#db/projects/environments.ts'
import { keySql } from '#db/key-sql.ts'
import type { Tx } from '#db/open.ts'
import { int, rowsOf, text } from '#db/rows.ts'

/** Of what failures are looked at. */
export interface ObservedOf {
  readonly kind: 'run' | 'case' | 'requirement'
  readonly id: number
}

const most = 20_000
const casesOf = (id: number): SQL => sql`
  (
    select l.case_id
    from link l
    where l.requirement_id = ${id} and l.until_at is null
  )`

/** Attempts that are looked at: of a run those of its items, else all at its cases. */
const attemptsOf = ({ kind, id }: ObservedOf): SQL => {
  if (kind === 'run')
    return sql`a.id in (select i.attempt_id from item i where i.run_id = ${id} and i.deleted_at is null)`
  return kind === 'case' ? sql`a.case_id = ${id}` : sql`a.case_id in ${casesOf(id)}`
}

/** Factor values of an environment; one that has none is told by its name. */
const placeOf = (
  values: ReturnType<typeof environmentValues>,
  { place, environment }: { readonly place: number; readonly environment: string },
): Readonly<Record<string, string>> => values.get(place) ?? { environment }

/** What was executed and passed or failed, row by row where a case has rows; doubted and struck attempts aside. */
export function observationsOf(tx: Tx, projectId: number, of: ObservedOf): Observation[] {
  const places = environmentValues(tx, projectId)
  const attempts = rowsOf(
    tx,
    { id: int, case: text, place: int, environment: text, build: text, verdict: text },
    sql`
      select a.id, ${keySql('case', 'c.number')} as "case", e.id as place, e.name as environment,
        b.name as build, a.verdict
      from attempt a
      join test_case c on c.id = a.case_id
      join environment e on e.id = a.environment_id
      join build b on b.id = a.build_id
      where ${attemptsOf(of)} and a.final = 1 and a.struck is null and a.doubt is null
        and a.verdict in ('Passed', 'Failed')
      order by a.finished_at desc, a.id desc
      limit ${most}`,
  )
  const rows = groupBy(rowVerdicts(tx, of), ({ attempt }) => attempt)
  return attempts.flatMap(({ id, case: own, build, verdict, ...where }) => {
    const values = { ...placeOf(places, where), build, case: own }
    const data = rows.get(id) ?? []
    if (data.length < 2) return [{ values: { ...values, ...dataOf(data[0]?.values) }, failed: verdict === 'Failed' }]
    return data.flatMap((row) =>
      row.failed === 0 && row.passed === 0
        ? []
        : [{ values: { ...values, ...dataOf(row.values) }, failed: row.failed > 0 }],
    )
  })
}

/** Values of a data row are told as they are written in steps. */
const dataOf = (json: string | undefined): Record<string, string> =>
  json === undefined
    ? {}
    : Object.fromEntries(Object.entries(valuesIn(json)).map(([name, value]) => [`{${name}}`, value]))

/** How many steps of each data row failed, and passed. */
const rowVerdicts = (tx: Tx, of: ObservedOf): { attempt: number; values: string; failed: number; passed: number }[] =>
  rowsOf(
    tx,
    { attempt: int, values: text, failed: int, passed: int },
    sql`
      select r.attempt_id as attempt, r."values", coalesce(sum(s.verdict = 'Failed'), 0) as failed,
        coalesce(sum(s.verdict = 'Passed'), 0) as passed
      from attempt a
      join attempt_row r on r.attempt_id = a.id
      left join attempt_step s on s.attempt_id = a.id and s."row" = r."row"
      where ${attemptsOf(of)} and a.final = 1
      group by r.attempt_id, r."row"`,
  )

export interface OpenItem {
  readonly id: number
  readonly case: string
  readonly title: string
  readonly environment: string
  readonly run: string
}

/** Items of open runs that were not begun, of the cases that are looked at, with the values they would be executed with. */
export function openItems(tx: Tx, projectId: number, of: ObservedOf): Possible<OpenItem>[] {
  const places = environmentValues(tx, projectId)
  const where =
    of.kind === 'run'
      ? sql`r.id = ${of.id}`
      : of.kind === 'case'
        ? sql`i.case_id = ${of.id}`
        : sql`i.case_id in ${casesOf(of.id)}`
  return rowsOf(
    tx,
    { id: int, case: text, title: text, environment: text, place: int, run: text, build: text },
    sql`
      select i.id, ${keySql('case', 'c.number')} as "case", c.title, e.name as environment, e.id as place,
        ${keySql('run', 'r.number')} as run, b.name as build
      from run r
      join item i on i.run_id = r.id
      join test_case c on c.id = i.case_id
      join environment e on e.id = i.environment_id
      join build b on b.id = r.build_id
      where r.project_id = ${projectId}
        and r.state = 'Open'
        and r.deleted_at is null
        and i.deleted_at is null
        and i.attempt_id is null
        and ${where}
      order by r.id, i.position
      limit 5000`,
  ).map(({ place, build, ...item }) => ({
    id: item,
    values: { ...placeOf(places, { place, environment: item.environment }), build, case: item.case },
  }))
}
