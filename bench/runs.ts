import { ask, begin, type Measured, ms, quantile, type Setting, timed, verdictBody } from './measure.ts'

const path = '/projects/LARGE'
const wanted = { runs: 20, items: 5000 }
const reasons = ['failed', 'stuck', 'basis changed', 'too old', 'never tried']

interface Made {
  readonly keys: string[]
  readonly build: number
}

/** Large runs made while somebody records, and what is to be executed again out of all of them; their items are dropped again. */
export async function benchRuns(setting: Setting): Promise<Measured[]> {
  const project = Object(await ask(setting, 'GET', path))
  const made: Made = { keys: [], build: project.builds.at(-1).id }
  try {
    return [...(await making(setting, project, made)), ...(await composing(setting, made))]
  } finally {
    for (const key of made.keys) {
      const { ids } = Object(await ask(setting, 'GET', `${path}/runs/${key}/items/order`))
      await ask(setting, 'POST', `${path}/runs/${key}/items/drop`, { ids })
    }
  }
}

async function making(
  setting: Setting,
  { environments }: { environments: { id: number; isAny: boolean }[] },
  made: Made,
): Promise<Measured[]> {
  const { ids } = Object(await ask(setting, 'GET', `${path}/cases/order`))
  const places = environments.filter(({ isAny }) => !isAny).map(({ id }) => id)
  const times: number[] = []
  const verdicts: number[] = []
  const { attempt, steps } = await begin(setting, 5)
  let going = true
  const recording = (async () => {
    while (going) {
      await timed(verdicts, () =>
        ask(setting, 'PUT', `${path}/attempts/${attempt}/rows/1/steps/${steps[0]}`, verdictBody('Passed')),
      )
      await new Promise((resolve) => setTimeout(resolve, 5))
    }
  })()
  for (let n = 0; n < wanted.runs; n++) {
    const from = (n * wanted.items) % ids.length
    const environment = places[Math.floor((n * wanted.items) / ids.length) % places.length]
    const body = {
      title: `Of the bench ${n}`,
      build: made.build,
      cases: ids.slice(from, from + wanted.items),
      environments: [environment],
      startOn: '2026-11-23',
      endOn: '2026-11-27',
    }
    const { key } = Object(await timed(times, () => ask(setting, 'POST', `${path}/runs`, body)))
    made.keys.push(key)
  }
  going = false
  await recording
  const [p95, verdictP95] = [quantile(times, 0.95), quantile(verdicts, 0.95)]
  return [
    {
      name: 'a large run is made while verdicts are recorded',
      met: p95 < 2000 && verdictP95 < 100,
      figures: { p50: quantile(times, 0.5), p95, verdictP95 },
      text: `${wanted.items} items; p50 ${ms(quantile(times, 0.5))}, p95 ${ms(p95)} (aim 2 s); verdicts meanwhile p95 ${ms(verdictP95)} (aim 100 ms), ${verdicts.length} of them`,
    },
  ]
}

/** Composed anew after each verdict, then with one reason more or less, as one presses its key. */
async function composing(setting: Setting, { keys, build }: Made): Promise<Measured[]> {
  const [after, keyed]: [number[], number[]] = [[], []]
  const compose = (chosen: readonly string[]) =>
    ask(
      setting,
      'GET',
      `${path}/compose?build=${build}&runs=${keys.join(',')}&reasons=${encodeURIComponent(chosen.join(','))}&limit=200`,
    )
  const { looked } = Object(await compose(reasons))
  for (let n = 0; n < Math.max(40, setting.samples / 40); n++) {
    const { attempt, steps } = await begin(setting, 12_000 + (n % 3000))
    await ask(setting, 'PUT', `${path}/attempts/${attempt}/rows/1/steps/${steps[0]}`, verdictBody('Failed'))
    await timed(after, () => compose(reasons.slice(0, 3)))
    await timed(keyed, () => compose(reasons.slice(0, 1 + (n % 5))))
  }
  const [p95, keyP95] = [quantile(after.slice(3), 0.95), quantile(keyed.slice(3), 0.95)]
  return [
    {
      name: 'what to execute again, out of many runs',
      met: p95 <= 300,
      figures: { p50: quantile(after, 0.5), p95, keyP95, looked },
      text: `${keys.length} runs, ${looked} cases in environments; after a verdict p50 ${ms(quantile(after, 0.5))}, p95 ${ms(p95)} (aim 300 ms); at a key p95 ${ms(keyP95)}`,
    },
  ]
}
