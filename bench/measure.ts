import { existsSync, readFileSync } from 'node:fs'

export interface Setting {
  readonly url: string
  readonly data: string
  readonly cookie: string
  readonly samples: number
  readonly say: (text: string) => void
}
export interface Measured {
  readonly name: string
  readonly text: string
  readonly figures: Readonly<Record<string, number>>
  /** Against what is aimed at; `null` where nothing is. */
  readonly met: boolean | null
}

/** The value below which a share of the samples lies. */
export const quantile = (samples: readonly number[], share: number): number => {
  const sorted = [...samples].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN
}
export const ms = (value: number): string => `${value.toFixed(value < 10 ? 2 : 1)} ms`

/** Time of all processors so far, in ticks, and what a host took of it; `null` where the machine does not tell. */
export function processors(): { readonly all: number; readonly taken: number } | null {
  if (!existsSync('/proc/stat')) return null
  // user, nice, system, idle, iowait, irq, softirq, steal: proc_stat(5)
  const ticks = readFileSync('/proc/stat', 'utf8').split('\n')[0]!.trim().split(/\s+/).slice(1, 9).map(Number)
  return { all: ticks.reduce((sum, each) => sum + each, 0), taken: ticks[7] ?? 0 }
}
/** The share a host took since; times of such a run tell of the host as well. */
export function takenSince(before: ReturnType<typeof processors>): number | null {
  const after = processors()
  return before && after && after.all > before.all ? (after.taken - before.taken) / (after.all - before.all) : null
}

export async function timed<T>(into: number[], work: () => Promise<T> | T): Promise<T> {
  const start = performance.now()
  const result = await work()
  into.push(performance.now() - start)
  return result
}

/** The cookies of the person of the bench. */
export async function signedIn(url: string): Promise<string> {
  const answer = await fetch(`${url}/api/v1/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'bench@rovant.example', password: 'ferry-2024' }),
  })
  return answer.headers
    .getSetCookie()
    .map((each) => each.split(';')[0])
    .join('; ')
}

/** A request as the person of the bench; an answer that is not yes ends the bench. */
export async function ask(setting: Setting, method: string, path: string, body?: unknown): Promise<unknown> {
  const response = await fetch(`${setting.url}/api/v1${path}`, {
    method,
    headers: { cookie: setting.cookie, ...(body !== undefined && { 'content-type': 'application/json' }) },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  })
  const text = await response.text()
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${text.slice(0, 300)}`)
  return JSON.parse(text)
}

let sequence = Date.now() % 1_000_000_000
/** The body of a verdict with the next number of the bench's own client. */
export const verdictBody = (verdict: string) => ({
  verdict,
  client: 'bench-client-1',
  sequence: ++sequence,
  at: Date.now(),
})

export interface Begun {
  readonly attempt: number
  readonly steps: readonly number[]
}
/** Starts an attempt on the n-th item of the large run, counted round where the run has fewer. */
export async function begin(setting: Setting, n: number): Promise<Begun> {
  const items = '/projects/LARGE/runs/RN-1/items?limit=1'
  const { total } = Object(await ask(setting, 'GET', items))
  const page = Object(await ask(setting, 'GET', `${items}&cursor=${n % total}`))
  const attempt = Object(await ask(setting, 'POST', `/projects/LARGE/items/${page.rows[0].id}/attempts`, {}))
  return { attempt: attempt.id, steps: attempt.steps.map((step: unknown) => Object(step).id) }
}
