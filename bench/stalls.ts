import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { Worker } from 'node:worker_threads'
import { home, rovant, type Running, startServer } from '../test/server.ts'
import { isOwnStall, type Stall } from '#server/app/loop-watch.ts'
import { longestHeld } from '#server/http/held.ts'
import { ask, type Measured, ms, quantile, type Setting, signedIn, verdictBody } from './measure.ts'

const cases = 10_000

/** Long acts at 10,000 cases, each alone, with somebody beside who asks next to nothing; the server's own watch says what held it. */
export async function benchStalls(of: Pick<Setting, 'say'>, part = ''): Promise<Measured[]> {
  const data = join(home, 'data', `bench-stalls-${cases}`)
  const made = await rovant(['fixture', '--cases', String(cases), '--attempts', '50000', '--data', data])
  if (made.code !== 0 && !/already/.test(made.err)) throw new Error(made.err)
  const server = await startServer({ command: 'serve', data, env: { ROVANT_CHECK_ANSWERS: '0' } })
  const stalls = stallsOf(server)
  const setting: Setting = { ...of, url: server.url, data, cookie: await signedIn(server.url), samples: 0 }
  const measured: Measured[] = []
  try {
    // What is read for the first time is read for nobody in particular.
    await ask(setting, 'GET', '/projects/LARGE/reports/coverage')
    let floor = longestHeld
    for (const [name, act] of await actsOf(setting)) {
      if (!name.includes(part)) continue
      const one = await measure(setting, { name, act, stalls, floor })
      measured.push(one)
      // What holds it with nothing asked is the machine: time that its host takes counts as the thread's own here.
      if (act === idle[1]) floor = Math.max(floor, one.figures['longest'] ?? 0)
    }
  } finally {
    await server.stop()
  }
  return measured
}

/** What the server tells of itself from now on. */
function stallsOf({ process: child }: Running): Stall[] {
  const stalls: Stall[] = []
  if (!child.stdout) throw new Error('the server says nothing')
  createInterface({ input: child.stdout }).on('line', (line) => {
    if (!line.startsWith('{')) return
    const { stall } = Object(JSON.parse(line))
    if (stall) stalls.push(stall)
  })
  return stalls
}

async function measure(
  setting: Setting,
  { name, act, stalls, floor }: { name: string; act: () => Promise<unknown>; stalls: Stall[]; floor: number },
): Promise<Measured> {
  stalls.length = 0
  const beside: number[] = []
  let going = true
  const other = (async () => {
    while (going) {
      const began = performance.now()
      await ask(setting, 'PUT', '/projects/LARGE/nothing', verdictBody('Passed'))
      beside.push(performance.now() - began)
      await new Promise((resolve) => setTimeout(resolve, 3))
    }
  })()
  const began = performance.now()
  await act().finally(() => {
    going = false
  })
  const took = performance.now() - began
  await other
  await new Promise((resolve) => setTimeout(resolve, 100))
  const own = stalls.filter(isOwnStall).sort((a, b) => b.cpu - a.cpu)
  const [longest] = own
  return {
    name: `nobody is held up: ${name}`,
    met: act === idle[1] || (longest?.cpu ?? 0) <= floor,
    figures: {
      took,
      stalls: own.length,
      longest: longest?.cpu ?? 0,
      besideP95: quantile(beside, 0.95),
      besideMost: Math.max(...beside),
    },
    text: `${ms(took)} in all; ${longest ? `held ${own.length} times, longest ${longest.cpu} ms of a processor in ${longest.ms}, ${longest.memory} of them for memory, by ${longest.by.join(', ')}` : `never held for more than ${longestHeld} ms`}${floor > longestHeld ? ` (with nothing asked up to ${floor} ms)` : ''}; beside it p95 ${ms(quantile(beside, 0.95))}, most ${ms(Math.max(...beside))} over ${beside.length}`,
  }
}

type Act = readonly [name: string, act: () => Promise<unknown>]

interface Beside {
  readonly setting: Setting
  readonly ids: readonly number[]
}
const path = '/projects/LARGE'

async function actsOf(setting: Setting): Promise<Act[]> {
  const ids: number[] = Object(await ask(setting, 'GET', `${path}/cases/order`)).ids
  const of = { setting, ids }
  return [
    idle,
    ...filesWritten(of),
    ...textReplaced(of),
    ...manyChanged(of),
    ...fileImported(of),
    ...read(of),
    ...scheduled(of),
  ]
}

const idle: Act = [
  'nothing at all, beside a busy processor, for a minute',
  async () => {
    const busy = new Worker('for (;;);', { eval: true })
    await new Promise((resolve) => setTimeout(resolve, 60_000))
    await busy.terminate()
  },
]

function filesWritten({ setting }: Beside): Act[] {
  const file = (format: string) => async () => {
    const answer = await fetch(`${setting.url}/api/v1${path}/export?format=${format}&what=cases`, {
      headers: { cookie: setting.cookie },
    })
    if (!answer.ok) throw new Error(await answer.text())
    return answer.arrayBuffer()
  }
  return [
    ['all cases as PDF', file('pdf')],
    ['all cases as a workbook', file('xlsx')],
    ['all cases as CSV', file('csv')],
  ]
}

const takenBack = (setting: Setting, act: number | null) => ask(setting, 'POST', `${path}/imports/${act}/undo`)

function textReplaced({ setting }: Beside): Act[] {
  const fields = ['title', 'action', 'expected']
  const asked = { find: 'the', put: 'THE', wholeWords: true, matchCase: true, fields }
  const replace = async (dry: boolean, seen = 0) =>
    Object(await ask(setting, 'POST', `${path}/cases/replace`, { ...asked, dry, seen }))
  let [seen, act]: [number, number | null] = [0, null]
  return [
    ['a text looked for in all cases', async () => void (seen = (await replace(true)).places)],
    ['a text replaced in all cases', async () => void (act = (await replace(false, seen)).act)],
    ['that taken back', () => takenBack(setting, act)],
  ]
}

function manyChanged({ setting, ids }: Beside): Act[] {
  let refs: string[] = []
  const half = ids.slice(0, ids.length / 2)
  const edit = (body: object) => () => ask(setting, 'PATCH', `${path}/cases`, { ids, ...body })
  return [
    [`${ids.length} cases changed`, edit({ set: { importance: 'Critical' } })],
    [`${ids.length} cases given a tag`, edit({ set: {}, tags: { add: ['held'] } })],
    [
      `${half.length} cases deleted`,
      async () => {
        refs = Object(await ask(setting, 'POST', `${path}/cases/delete`, { ids: half })).refs
      },
    ],
    [`${half.length} cases brought back`, () => ask(setting, 'POST', `${path}/restore`, { refs })],
    [
      'a requirement linked with 2,000 cases',
      () => ask(setting, 'POST', `${path}/links`, { requirements: ['RQ-1'], caseIds: ids.slice(0, 2000) }),
    ],
  ]
}

function fileImported({ setting }: Beside): Act[] {
  const rows = Array.from(
    { length: 5000 },
    (_, n) => `Held case ${Date.now()} ${n},Do it,It is done\n,Look,It is there`,
  )
  let act: number | null = null
  const send = async () => {
    const answer = await fetch(`${setting.url}/api/v1${path}/imports?dry=no`, {
      method: 'POST',
      headers: { cookie: setting.cookie, 'content-type': 'text/csv' },
      body: `case,action,expected\n${rows.join('\n')}\n`,
    })
    if (!answer.ok) throw new Error(await answer.text())
    act = Object(await answer.json()).act
  }
  return [
    ['5,000 cases imported', send],
    ['that import taken back', () => takenBack(setting, act)],
  ]
}

/** What a lead does with a run of 5,000 items, each with a name that says it is of a schedule. */
function scheduled({ setting, ids }: Beside): Act[] {
  let key = ''
  let level: Record<string, unknown> = {}
  let before: unknown = {}
  const get = (rest: string) => () => ask(setting, 'GET', `${path}/runs/${key}/${rest}`)
  return [
    [
      'schedule: a run of 5,000 items made',
      async () => {
        const project = Object(await ask(setting, 'GET', path))
        const today = new Date().toISOString().slice(0, 10)
        const made = await ask(setting, 'POST', `${path}/runs`, {
          title: 'Schedule of the bench',
          build: project.builds.at(-1).id,
          cases: ids.slice(0, 5000),
          environments: [project.environments.find(({ isAny }: { isAny: boolean }) => !isAny).id],
          people: project.people.map(({ id }: { id: string }) => id),
          startOn: today,
          endOn: new Date(Date.now() + 20 * 86_400_000).toISOString().slice(0, 10),
        })
        key = Object(made).key
        await ask(setting, 'GET', `${path}/runs/${key}/line`)
      },
    ],
    ['schedule: its cut line', get('line')],
    [
      'schedule: levelled',
      async () => void (level = Object(await ask(setting, 'POST', `${path}/runs/${key}/level`, { above: false }))),
    ],
    [
      'schedule: put on days',
      async () => void (before = Object(await ask(setting, 'PUT', `${path}/runs/${key}/days`, level)).before),
    ],
    ['schedule: its cut line with days', get('line')],
    ['schedule: weighed for a what-if', get('what-ifs/figures')],
    [
      'schedule: eight weeks of the calendar',
      () => ask(setting, 'GET', `${path}/calendar?days=56&from=${new Date().toISOString().slice(0, 10)}`),
    ],
    ['schedule: taken off the days', () => ask(setting, 'PUT', `${path}/runs/${key}/days/items`, before)],
    [
      'schedule: the run ended',
      async () => {
        const { version } = Object(await ask(setting, 'GET', `${path}/runs/${key}`))
        await fetch(`${setting.url}/api/v1${path}/runs/${key}`, {
          method: 'PATCH',
          headers: { cookie: setting.cookie, 'content-type': 'application/json', 'if-match': String(version) },
          body: JSON.stringify({ state: 'Aborted', reason: 'It was for the bench.' }),
        })
      },
    ],
  ]
}

const read = ({ setting, ids }: Beside): Act[] => [
  [
    'coverage after a change',
    async () => {
      await ask(setting, 'PATCH', `${path}/cases`, { ids: ids.slice(0, 1), set: { importance: 'Low' } })
      await ask(setting, 'GET', `${path}/reports/coverage`)
    },
  ],
  [
    'the order of all cases, filtered and sorted',
    () => ask(setting, 'GET', `${path}/cases/order?text=sailing&sort=title`),
  ],
]
