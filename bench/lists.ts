import { join } from 'node:path'
import Database from 'better-sqlite3'
import { ask, type Measured, ms, quantile, type Setting, timed } from './measure.ts'

const filter = JSON.stringify({
  all: [
    { field: 'importance', op: 'is', values: ['High'] },
    { field: 'component', op: 'is', values: ['Payment'] },
  ],
})

/** What a row of the cases list is made of. */
const columns = `
  c.id, 'TC-' || c.number as key, c.number, c.title, c.importance, c.state, c.type, c.component,
  (select name from person where id = c.owner_id) as owner, c.automation, c.estimate,
  (select name from folder where id = c.folder_id) as folder, c.steps,
  (
    select count(*)
    from link l
    join requirement r on r.id = l.requirement_id
    where l.case_id = c.id and l.until_at is null and r.deleted_at is null
  ) as requirements,
  c.version, v.major, v.minor`

/** The cases list's first page with its total, plain and filtered, against doing nothing plus the bare queries; and the whole page. */
export async function benchLists(setting: Setting): Promise<Measured[]> {
  const db = new Database(join(setting.data, 'rovant.db'), { readonly: true })
  const bare = (where: string) => {
    const ids = db
      .prepare(
        `select c.id from test_case c where c.project_id = 1 and c.deleted_at is null ${where} order by c.number limit 100`,
      )
      .pluck()
    const total = db
      .prepare(`select count(*) from test_case c where c.project_id = 1 and c.deleted_at is null ${where}`)
      .pluck()
    const rows = db.prepare(
      `select ${columns} from test_case c left join case_version v on v.id = c.newest_version_id where c.id in (select value from json_each(?))`,
    )
    return () => [total.get(), rows.all(JSON.stringify(ids.all()))]
  }
  const plain = await against(
    setting,
    'the cases list, first page with total',
    '/projects/LARGE/cases?limit=100',
    bare(''),
  )
  const filtered = await against(
    setting,
    'the cases list, filtered',
    `/projects/LARGE/cases?limit=100&filter=${encodeURIComponent(filter)}`,
    bare("and c.importance = 'High' and c.component = 'Payment'"),
  )
  db.close()
  const pages: number[] = []
  for (let n = 0; n < Math.max(100, setting.samples / 10); n++)
    await timed(pages, async () => {
      const answer = await fetch(`${setting.url}/p/LARGE/cases`, { headers: { cookie: setting.cookie } })
      await answer.text()
    })
  const p95 = quantile(pages.slice(5), 0.95)
  const jumps: number[] = []
  for (let n = 0; n < 200; n++)
    await timed(jumps, () => ask(setting, 'GET', `/projects/LARGE/cases?limit=100&cursor=${(n * 977) % 49_000}`))
  return [
    plain,
    filtered,
    {
      name: 'the whole page of cases, with meter and counts',
      met: p95 < 150,
      figures: { p50: quantile(pages, 0.5), p95 },
      text: `p50 ${ms(quantile(pages, 0.5))}, p95 ${ms(p95)} (aim 150 ms)`,
    },
    {
      name: 'a page from anywhere in the list',
      met: null,
      figures: { p95: quantile(jumps, 0.95) },
      text: `p95 ${ms(quantile(jumps, 0.95))}`,
    },
  ]
}

async function against(setting: Setting, name: string, path: string, bare: () => unknown): Promise<Measured> {
  const [lists, nothings, bares]: [number[], number[], number[]] = [[], [], []]
  for (let n = 0; n < setting.samples + 50; n++) {
    await timed(lists, () => ask(setting, 'GET', path))
    await timed(nothings, () => ask(setting, 'GET', '/projects/LARGE/nothing'))
    await timed(bares, bare)
  }
  const of = (samples: number[], share: number) => quantile(samples.slice(50), share)
  const baseline = of(nothings, 0.95) + of(bares, 0.95)
  const ratio = of(lists, 0.95) / baseline
  return {
    name,
    met: ratio <= 2 && of(lists, 0.95) < 50,
    figures: { p50: of(lists, 0.5), p95: of(lists, 0.95), baseline, ratio, samples: setting.samples },
    text: `p50 ${ms(of(lists, 0.5))}, p95 ${ms(of(lists, 0.95))}; ${ratio.toFixed(2)} × baseline (nothing ${ms(of(nothings, 0.95))} + bare queries ${ms(of(bares, 0.95))}; aim 2 × and 50 ms)`,
  }
}
