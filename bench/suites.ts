import { join } from 'node:path'
import Database from 'better-sqlite3'
import { ask, begin, type Measured, ms, quantile, type Setting, timed, verdictBody } from './measure.ts'

const path = '/projects/LARGE'
const rule = { field: 'importance', op: 'is not', values: ['Low'] }

/** A rule suite, its rule as it is typed, a large plan's arithmetic, and criteria after a verdict; what is made for it is deleted again. */
export async function benchSuites(setting: Setting): Promise<Measured[]> {
  const made: number[] = []
  try {
    return [
      ...(await ruleSuite(setting, made)),
      await typedRule(setting),
      ...(await largePlan(setting, made)),
      ...(await criteria(setting)),
    ]
  } finally {
    if (made.length > 0) await ask(setting, 'POST', `${path}/suites/delete`, { ids: made })
  }
}

async function makeSuite(setting: Setting, made: number[], body: object): Promise<{ id: number; key: string }> {
  const { id, key } = Object(await ask(setting, 'POST', `${path}/suites`, { title: 'Of the bench', ...body }))
  made.push(id)
  return { id, key }
}

/** Opened again, and opened for the first time after a change anywhere in the project. */
async function ruleSuite(setting: Setting, made: number[]): Promise<Measured[]> {
  const suite = await makeSuite(setting, made, { sources: [{ kind: 'rule', words: '', filter: rule }] })
  const db = new Database(join(setting.data, 'rovant.db'), { readonly: true })
  const where = `c.project_id = 1 and c.deleted_at is null and c.retired_at is null and (c.importance is null or c.importance <> 'Low')`
  const ids = db.prepare(`select c.id from test_case c where ${where} order by c.number`).pluck()
  const rows = db.prepare(
    `select c.id, c.number, c.title, c.importance, c.estimate, c.steps from test_case c where c.id in (select value from json_each(?))`,
  )
  const bare = () => rows.all(JSON.stringify(ids.all().slice(0, 100)))
  const [warm, cold, nothings, bares]: [number[], number[], number[], number[]] = [[], [], [], []]
  const [own = 0] = ids.all().map(Number)
  const open = () => ask(setting, 'GET', `${path}/suites/${suite.key}`)
  for (let n = 0; n < Math.max(60, setting.samples / 20); n++) {
    await ask(setting, 'PATCH', `${path}/cases`, { ids: [own], set: { estimate: 5 + (n % 2) } })
    await timed(cold, open)
    await timed(warm, open)
    await timed(nothings, () => ask(setting, 'GET', `${path}/nothing`))
    await timed(bares, bare)
  }
  const total = Object(await open()).cases
  db.close()
  const baseline = quantile(nothings.slice(5), 0.95) + quantile(bares.slice(5), 0.95)
  const told = (name: string, samples: number[]): Measured => {
    const p95 = quantile(samples.slice(5), 0.95)
    return {
      name,
      met: p95 <= 2 * baseline,
      figures: { p50: quantile(samples.slice(5), 0.5), p95, baseline, ratio: p95 / baseline },
      text: `${total} cases; p50 ${ms(quantile(samples.slice(5), 0.5))}, p95 ${ms(p95)}; ${(p95 / baseline).toFixed(2)} × baseline (nothing ${ms(quantile(nothings.slice(5), 0.95))} + bare query ${ms(quantile(bares.slice(5), 0.95))}; aim 2 ×)`,
    }
  }
  return [told('a rule suite is opened', warm), told('a rule suite is opened after a change of the project', cold)]
}

/** Each letter of a rule asks how many it brings and the first of them. */
async function typedRule(setting: Setting): Promise<Measured> {
  const words = 'sailing payment ferry ticket'
  const letters: number[] = []
  for (let n = 0; n < Math.max(60, setting.samples / 20); n++) {
    const typed = words.slice(0, 1 + (n % words.length))
    const asked = `words=${encodeURIComponent(typed)}&filter=${encodeURIComponent(JSON.stringify(n % 2 ? rule : { any: [rule, { field: 'requirement.risk', op: 'above', values: [n % 20] }] }))}`
    await timed(letters, () => ask(setting, 'GET', `${path}/rule?${asked}`))
  }
  const p95 = quantile(letters.slice(5), 0.95)
  return {
    name: 'a rule tells what it brings at each letter',
    met: p95 <= 100,
    figures: { p50: quantile(letters, 0.5), p95 },
    text: `p50 ${ms(quantile(letters, 0.5))}, p95 ${ms(p95)} (aim 100 ms)`,
  }
}

/** The matrix is looked at over more environments than the plan's arithmetic. */
const wanted = { suites: 40, cases: 5000, environments: 12, columns: 40 }

/** A plan of 40 suites with 5,000 cases in 12 environments. */
async function largePlan(setting: Setting, made: number[]): Promise<Measured[]> {
  const { ids } = Object(await ask(setting, 'GET', `${path}/cases/order`))
  const each = wanted.cases / wanted.suites
  const suites: number[] = []
  for (let n = 0; n < wanted.suites; n++)
    suites.push((await makeSuite(setting, made, { cases: ids.slice(n * each, (n + 1) * each) })).id)
  const project = Object(await ask(setting, 'GET', path))
  const environments: number[] = project.environments
    .filter(({ isAny }: { isAny: boolean }) => !isAny)
    .map(({ id }: { id: number }) => id)
  while (environments.length < wanted.columns) {
    const name = `Bench ${environments.length}`
    environments.push(Object(await ask(setting, 'POST', `${path}/environments`, { name })).id)
  }
  const release = project.releases.at(-1).id
  const body = { title: 'Of the bench', release, suites, environments: environments.slice(0, wanted.environments) }
  const plan = Object(await ask(setting, 'POST', `${path}/plans`, body))
  const times: number[] = []
  for (let n = 0; n < Math.max(60, setting.samples / 20); n++)
    await timed(times, () => ask(setting, 'GET', `${path}/plans/${plan.key}`))
  const { cases } = Object(await ask(setting, 'GET', `${path}/plans/${plan.key}`))
  const prices: number[] = []
  const price = () => ask(setting, 'GET', `${path}/plans/${plan.key}/price`)
  await price()
  for (let n = 0; n < Math.max(40, setting.samples / 40); n++) {
    await verdict(setting, 7000 + (n % 3000))
    await timed(prices, price)
  }
  const measured = [
    told('a plan shows its arithmetic', times, cases, wanted.environments),
    told('a plan tells after a verdict what each way of asking would cost', prices, cases, wanted.environments),
    await matrix(setting, plan.key, environments),
  ]
  // It asks for nothing any more: what is measured after it is not about it.
  await change(setting, plan.key, { suites: [], environments: [] })
  return measured
}

function told(name: string, times: readonly number[], cases: number, environments: number): Measured {
  const p95 = quantile(times.slice(5), 0.95)
  return {
    name,
    met: p95 <= 300,
    figures: { p50: quantile(times, 0.5), p95, cases },
    text: `${wanted.suites} suites, ${cases} cases, ${environments} environments; p50 ${ms(quantile(times, 0.5))}, p95 ${ms(p95)} (aim 300 ms)`,
  }
}

async function change(setting: Setting, plan: string, body: object): Promise<void> {
  const { version } = Object(await ask(setting, 'GET', `${path}/plans/${plan}`))
  await fetch(`${setting.url}/api/v1${path}/plans/${plan}`, {
    method: 'PATCH',
    headers: { cookie: setting.cookie, 'content-type': 'application/json', 'if-match': String(version) },
    body: JSON.stringify(body),
  })
}

async function verdict(setting: Setting, item: number): Promise<void> {
  const { attempt, steps } = await begin(setting, item)
  await ask(setting, 'PUT', `${path}/attempts/${attempt}/rows/1/steps/${steps[0]}`, verdictBody('Passed'))
}

/** Pages of the matrix as one scrolls through it, after a verdict each, for then it is told anew. */
async function matrix(setting: Setting, plan: string, environments: readonly number[]): Promise<Measured> {
  await change(setting, plan, { environments: environments.slice(0, wanted.columns) })
  const page = (cursor: number) =>
    ask(setting, 'GET', `${path}/plans/${plan}/matrix?by=cases&cursor=${cursor}&limit=100`)
  const [first, pages]: [number[], number[]] = [[], []]
  const { total, columns } = Object(await page(0))
  for (let n = 0; n < Math.max(30, setting.samples / 60); n++) {
    await verdict(setting, 10_000 + (n % 3000))
    await timed(first, () => page(0))
    await timed(pages, () => page(100 * (1 + (n % 48))))
  }
  const p95 = quantile(pages, 0.95)
  return {
    name: 'a page of the matrix',
    met: null,
    figures: { p50: quantile(pages, 0.5), p95, firstP95: quantile(first, 0.95) },
    text: `${total} cases × ${columns.length} environments; p50 ${ms(quantile(pages, 0.5))}, p95 ${ms(p95)}; the first after a verdict p95 ${ms(quantile(first, 0.95))}`,
  }
}

const rules = [
  { kind: 'share', measure: 'designed', atLeast: 90 },
  { kind: 'share', measure: 'passing', basis: 'current', byRisk: true, atLeast: 90 },
  { kind: 'share', measure: 'fully passing', basis: 'recorded', byRisk: false, atLeast: 80 },
  { kind: 'defects', severity: 'Critical', atMost: 0 },
  { kind: 'important', importance: 'High', days: null },
  { kind: 'untold', atMost: 0 },
  { kind: 'suspect', atMost: 10 },
  { kind: 'items', atLeast: 95 },
]

/** The criteria of a release told anew after each verdict, and the shortest way to them. */
async function criteria(setting: Setting): Promise<Measured[]> {
  const project = Object(await ask(setting, 'GET', path))
  const release =
    project.releases.find(({ state }: { state: string }) => state === 'In test') ?? project.releases.at(-1)
  const plan = Object(await ask(setting, 'POST', `${path}/plans`, { title: 'Of the bench', release: release.id }))
  for (const each of rules) await ask(setting, 'POST', `${path}/plans/${plan.key}/criteria`, { rule: each })
  const [answers, frames, cold]: [number[], number[], number[]] = [[], [], []]
  const tell = () => ask(setting, 'GET', `${path}/plans/${plan.key}/criteria`)
  await timed(cold, tell)
  for (let n = 0; n < Math.max(40, setting.samples / 40); n++) {
    const { attempt, steps } = await begin(setting, 14_000 + (n % 3000))
    await ask(setting, 'PUT', `${path}/attempts/${attempt}/rows/1/steps/${steps[0]}`, verdictBody('Failed'))
    await timed(answers, tell)
    await timed(frames, () => ask(setting, 'GET', `${path}/frame`))
  }
  const ways: number[] = []
  let way: unknown
  for (let n = 0; n < 3; n++)
    way = await timed(ways, () => ask(setting, 'GET', `${path}/plans/${plan.key}/shortest-way`))
  for (const { id } of Object(await tell()).criteria)
    await ask(setting, 'DELETE', `${path}/plans/${plan.key}/criteria/${id}`)
  const p95 = quantile(answers, 0.95)
  return [
    {
      name: 'the criteria of a release after a verdict',
      met: p95 <= 400,
      figures: { p50: quantile(answers, 0.5), p95, cold: cold[0] ?? NaN, frameP95: quantile(frames, 0.95) },
      text: `${rules.length} criteria; p50 ${ms(quantile(answers, 0.5))}, p95 ${ms(p95)} (aim 400 ms); ${ms(cold[0] ?? NaN)} when nothing was read before; the frame beside it p95 ${ms(quantile(frames, 0.95))}`,
    },
    {
      name: 'the shortest way to go',
      met: null,
      figures: { p50: quantile(ways, 0.5) },
      text: `${ms(quantile(ways, 0.5))} for ${Object(way).total} items`,
    },
  ]
}
