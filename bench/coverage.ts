import { join } from 'node:path'
import Database from 'better-sqlite3'
import { ask, begin, type Measured, ms, quantile, type Setting, timed, verdictBody } from './measure.ts'

/** The first coverage answer of a release after a new verdict, and whether it equals plain SQL over the attempts. */
export async function benchCoverage(setting: Setting): Promise<Measured[]> {
  const [answers, cold]: [number[], number[]] = [[], []]
  await timed(cold, () => ask(setting, 'GET', '/projects/LARGE/reports/coverage'))
  let answer: unknown
  for (let n = 0; n < Math.max(60, setting.samples / 20); n++) {
    const { attempt, steps } = await begin(setting, 16_000 + (n % 3000))
    await ask(setting, 'PUT', `/projects/LARGE/attempts/${attempt}/rows/1/steps/${steps[0]}`, verdictBody('Failed'))
    answer = await timed(answers, () => ask(setting, 'GET', '/projects/LARGE/reports/coverage'))
  }
  const got = Object(answer).total.figures.verdicts
  const wanted = verdictsBySql(join(setting.data, 'rovant.db'))
  const equal = ['Passed', 'Failed', 'Blocked', 'Skipped', 'Inconclusive'].every(
    (verdict) => (got[verdict] ?? 0) === (wanted.get(verdict) ?? 0),
  )
  const p95 = quantile(answers, 0.95)
  return [
    {
      name: 'the first coverage answer after a verdict',
      met: p95 < 400,
      figures: { p50: quantile(answers, 0.5), p95, cold: cold[0] ?? NaN },
      text: `p50 ${ms(quantile(answers, 0.5))}, p95 ${ms(p95)} (aim 400 ms); ${ms(cold[0] ?? NaN)} when nothing was read before`,
    },
    {
      name: 'coverage equals an independent SQL over the attempts',
      met: equal,
      figures: {},
      text: equal
        ? [...wanted].map(([verdict, n]) => `${n} ${verdict}`).join(', ')
        : `answered ${JSON.stringify(got)}, SQL says ${JSON.stringify([...wanted])}`,
    },
  ]
}

/** Slots by verdict, told without any of the code under test: each item's slot of the newest release, and any environment for other cases. */
function verdictsBySql(file: string): Map<string, number> {
  const db = new Database(file, { readonly: true })
  const rows = db
    .prepare(
      `
    with own as (select id from release where name = '4.0'),
      release_builds as (select id, position from build where release_id = (select id from own) and state <> 'Withdrawn'),
      live as (
        select distinct c.id
        from test_case c
        join link l on l.case_id = c.id and l.until_at is null
        join requirement r on r.id = l.requirement_id and r.deleted_at is null
        where c.project_id = 1 and c.deleted_at is null
      ),
      asked as (
        select distinct i.case_id, i.environment_id
        from item i
        join run n on n.id = i.run_id
        where n.release_id = (select id from own) and i.deleted_at is null
      ),
      answers as (
        select a.case_id, a.environment_id, a.verdict, b.position, a.finished_at, a.id
        from attempt a
        join release_builds b on b.id = a.build_id
        where a.final = 1
      ),
      named as (
        select verdict, row_number() over (
          partition by x.case_id, x.environment_id
          order by x.position desc, x.finished_at desc, x.id desc
        ) as place
        from answers x
        join asked s on s.case_id = x.case_id and s.environment_id = x.environment_id
        join live on live.id = x.case_id
      ),
      free as (
        select verdict, row_number() over (
          partition by x.case_id
          order by x.position desc, x.finished_at desc, x.id desc
        ) as place
        from answers x
        join live on live.id = x.case_id
        where x.case_id not in (select case_id from asked)
      )
    select verdict, count(*) as n
    from (
      select verdict from named where place = 1
      union all
      select verdict from free where place = 1
    )
    group by 1`,
    )
    .all()
  db.close()
  return new Map(rows.map((row) => [String(Object(row).verdict), Number(Object(row).n)]))
}
