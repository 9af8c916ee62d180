import { type ChildProcess, spawn } from 'node:child_process'
import { cpSync, mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const home = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '')
export const freshData = (): string => mkdtempSync(join(tmpdir(), 'rovant-test-'))

let filled: Promise<string> | undefined
/** A data directory with the demo in it. It is filled once in each process of tests: copying it takes a hundredth of the time. */
export async function demoData(): Promise<string> {
  filled ??= filledOnce()
  const into = freshData()
  cpSync(await filled, into, { recursive: true })
  return into
}
async function filledOnce(): Promise<string> {
  const data = freshData()
  await (await startServer({ command: 'demo', data })).stop()
  return data
}

export interface Running {
  readonly url: string
  /** Where letters it sends can be read; the demo alone has such a place. */
  readonly letters: string
  /** The simulated provider people may sign in by, where it was asked for. */
  readonly provider: string
  readonly data: string
  readonly process: ChildProcess
  readonly stop: (signal?: NodeJS.Signals) => Promise<void>
}

/** Starts the built application on a data directory and a port, a free one unless it is named, and waits until it answers. */
export async function startServer(of: {
  command: 'demo' | 'serve'
  data: string
  port?: string
  args?: readonly string[]
  env?: Record<string, string>
}): Promise<Running> {
  const child = spawn(
    process.execPath,
    [join(home, 'dist/cli/main.mjs'), of.command, '--port', of.port ?? '0', '--data', of.data, ...(of.args ?? [])],
    {
      env: { ...process.env, ROVANT_HOME: home, ROVANT_CHECK_ANSWERS: '1', ...of.env },
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  )
  let said = ''
  const url = await new Promise<string>((resolve, reject) => {
    const hear = (chunk: Buffer) => {
      said += chunk.toString()
      const found = /Rovant is at (http:\S+)/.exec(said)?.[1]
      if (found) resolve(found)
    }
    if (process.env['ROVANT_SHOW']) child.stdout.pipe(process.stderr)
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.once('exit', () => reject(new Error(`the server ended: ${said}`)))
  })
  const stop = (signal: NodeJS.Signals = 'SIGTERM') =>
    new Promise<void>((resolve) => {
      if (child.exitCode !== null || child.signalCode !== null) return resolve()
      child.once('exit', () => resolve())
      child.kill(signal)
    })
  const letters = /can be read at (http:\S+)/.exec(said)?.[1] ?? ''
  const provider = /“Harbour account”, is at (http:\S+)/.exec(said)?.[1] ?? ''
  return { url, letters, provider, data: of.data, process: child, stop }
}

/** Runs a command of the built command line. */
export async function rovant(
  args: readonly string[],
  input: { cwd?: string } = {},
): Promise<{ code: number; out: string; err: string }> {
  const child = spawn(process.execPath, [join(home, 'dist/cli/main.mjs'), ...args], {
    env: { ...process.env, ROVANT_HOME: home },
    stdio: ['ignore', 'pipe', 'pipe'],
    cwd: input.cwd ?? home,
  })
  let [out, err] = ['', '']
  child.stdout.on('data', (chunk: Buffer) => {
    out += chunk.toString()
  })
  child.stderr.on('data', (chunk: Buffer) => {
    err += chunk.toString()
  })
  const code = await new Promise<number>((resolve) => child.once('close', (status) => resolve(status ?? 1)))
  return { code, out, err }
}

export interface Client {
  /** What proves who it is, as a browser would send it. */
  readonly cookie: string
  readonly get: (path: string) => Promise<Reply>
  readonly send: (method: string, path: string, body?: unknown, headers?: Record<string, string>) => Promise<Reply>
}
export interface Reply {
  readonly status: number
  // Answers are checked against their contracts by the server under test; here they are read freely.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  readonly body: any
  readonly headers: Headers
}

/** A person signed in, or somebody with other headers. */
export async function clientOf(url: string, who: string | null, headers: Record<string, string> = {}): Promise<Client> {
  const own: Record<string, string> = { ...headers }
  if (who !== null) {
    const answer = await fetch(`${url}/api/v1/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: `${who}@tarnsey.example`, password: 'ferry-2024' }),
    })
    if (!answer.ok) throw new Error(await answer.text())
    own['cookie'] = answer.headers
      .getSetCookie()
      .map((cookie) => cookie.split(';')[0])
      .join('; ')
  }
  const send: Client['send'] = async (method, path, body, extra = {}) => {
    const raw = body instanceof Uint8Array || typeof body === 'string'
    const response = await fetch(`${url}/api/v1${path}`, {
      method,
      headers: { ...own, ...(body !== undefined && !raw && { 'content-type': 'application/json' }), ...extra },
      ...(body !== undefined && {
        body: body instanceof Uint8Array ? new Blob([new Uint8Array(body)]) : raw ? String(body) : JSON.stringify(body),
      }),
    })
    const text = await response.text()
    let parsed: unknown = text
    try {
      parsed = JSON.parse(text)
    } catch {
      /* a file, say */
    }
    return { status: response.status, body: parsed, headers: response.headers }
  }
  return { cookie: own['cookie'] ?? '', get: (path) => send('GET', path), send }
}
