import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { text } from 'node:stream/consumers'
import { fileURLToPath } from 'node:url'
import { answerApi } from './api.ts'
import { Refused } from './acts/refused.ts'
import { buildNamed, builds, devices, engines, languages, type Looking } from './builds.ts'
import { quirksOf } from './faults.ts'
import { pageAt } from './pages.tsx'
import { doneBy } from './posts.ts'
import { script } from './script.ts'
import { type Seen, seenBy, staff, type Who } from './seen.ts'
import { style } from './style.ts'
import { newWorld, type World } from './world.ts'

/**
 * Crossing Desk, the booking system that Tarnsey Ferries tests: a stand-in for an application of one's own. Each build has an address
 * (`/2.4.0-rc2/`), a state and a clock of its own; what is wrong in which of them stands in `faults.ts`.
 */
export interface CrossingDesk {
  readonly url: string
  /** The one origin that may show it in a frame from now on. */
  readonly framedBy: (origin: string) => void
  readonly stop: () => Promise<void>
}

/** Starts it on a port, or on a free one where that is taken. */
export async function startCrossingDesk(of: { port: number }): Promise<CrossingDesk> {
  const running: Running = { worlds: new Map(builds.map((build) => [build, newWorld(build)])), framedBy: "'none'" }
  const server = createServer((request, response) => {
    answer(request, response, running).catch((error: unknown) => {
      send(response, 500, 'text/plain', String(error instanceof Error ? error.stack : error))
    })
  })
  await listening(server, of.port).catch(() => listening(server, 0))
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    framedBy: (origin) => {
      running.framedBy = origin
    },
    stop: () => stopped(server),
  }
}

const listening = (server: Server, port: number): Promise<void> =>
  new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', resolve)
  })

const stopped = (server: Server): Promise<void> =>
  new Promise((resolve) => {
    server.close(() => resolve())
    server.closeAllConnections()
  })

interface Running {
  readonly worlds: Map<string, World>
  framedBy: string
}

async function answer(request: IncomingMessage, response: ServerResponse, running: Running): Promise<void> {
  const url = new URL(request.url ?? '/', 'http://crossing')
  response.setHeader('content-security-policy', policy(running.framedBy))
  response.setHeader('x-content-type-options', 'nosniff')
  response.setHeader('cache-control', 'no-store')
  const part = { '/crossing.css': ['text/css', style], '/crossing.js': ['text/javascript', script] }[url.pathname]
  if (part) {
    response.setHeader('cache-control', 'max-age=3600')
    return send(response, 200, part[0]!, part[1]!)
  }
  const [, name = '', ...rest] = url.pathname.split('/')
  const build = buildNamed(name)
  if (!build) return redirect(response, `/${builds.at(-2)}/`)
  const path = `/${rest.join('/')}`
  const body = request.method === 'POST' ? await text(request) : ''
  const of = seen(request, running.worlds.get(build)!, url.searchParams)
  if (path.startsWith('/api/')) {
    const told = await answerApi(of, {
      method: request.method ?? 'GET',
      path,
      body,
      fresh: () => fresh(running, build),
    })
    return send(response, told.status, 'application/json', JSON.stringify(told.body))
  }
  if (request.method === 'POST') return post(response, of, { path, form: new URLSearchParams(body), running })
  page(response, of, path)
}

const policy = (framedBy: string): string =>
  `default-src 'self'; frame-ancestors ${framedBy}; base-uri 'none'; form-action 'self'`

function fresh({ worlds }: Running, build: string): void {
  worlds.set(build, newWorld(buildNamed(build)!))
}

/** Who looks, by what the browser keeps of the test bench, else by what it says of itself. */
function seen(request: IncomingMessage, world: World, asked: URLSearchParams): Seen {
  const kept = new URLSearchParams((request.headers.cookie ?? '').replaceAll('; ', '&'))
  const agent = request.headers['user-agent'] ?? ''
  const looking: Looking = {
    engine: engines.find((each) => each === kept.get('cd-engine')) ?? engineOf(agent),
    device: devices.find((each) => each === kept.get('cd-device')) ?? deviceOf(agent),
    language: languages.find((each) => each === kept.get('cd-language')) ?? 'en',
  }
  const who = kept.get('cd-who')
  return seenBy({
    world,
    has: quirksOf(world.build, looking),
    build: world.build,
    looking,
    who: who !== null && who in staff ? (who as Who) : null,
    told: asked.get('told') ?? '',
    refused: asked.get('refused') ?? '',
    asked,
  })
}

const engineOf = (agent: string): Looking['engine'] =>
  /Firefox/.test(agent) ? 'Gecko' : /AppleWebKit/.test(agent) && !/Chrom/.test(agent) ? 'WebKit' : 'Chromium'
const deviceOf = (agent: string): Looking['device'] =>
  /iPad|Tablet/.test(agent) ? 'tablet' : /Mobi/.test(agent) ? 'phone' : 'desk'

function page(response: ServerResponse, of: Seen, path: string): void {
  try {
    const shown = pageAt(of, path)
    if (typeof shown !== 'string') return redirect(response, `/${of.build}${shown.to}`)
    send(response, 200, 'text/html', `<!doctype html>${shown}`)
  } catch (error) {
    if (!(error instanceof Refused)) throw error
    redirect(response, `/${of.build}/my?${new URLSearchParams({ refused: error.message })}`)
  }
}

interface Posted {
  readonly path: string
  readonly form: URLSearchParams
  readonly running: Running
}

/** Does what a form asks and leads on to a page; what is refused is said where the form stands. */
async function post(response: ServerResponse, of: Seen, { path, form, running }: Posted): Promise<void> {
  const from = form.get('from') ?? ''
  try {
    const done = await doneBy(of, path, form)
    if (done.reset) fresh(running, of.build)
    for (const [name, value] of Object.entries(done.keep ?? {}))
      response.appendHeader('set-cookie', `${name}=${encodeURIComponent(value)}; Path=/; SameSite=Lax`)
    if (done.page !== undefined) return send(response, 200, 'text/html', `<!doctype html>${done.page}`)
    redirect(response, `/${of.build}${done.to}${query(done.to, done.told === undefined ? {} : { told: done.told })}`)
  } catch (error) {
    if (!(error instanceof Refused)) throw error
    const back = from || placeOf(path)
    redirect(response, `/${of.build}${back}${query(back, { refused: error.message })}`)
  }
}

/** Where the form of an address stands. */
function placeOf(path: string): string {
  const [, area = '', of = ''] = path.split('/')
  if (area === 'booking') return path.endsWith('/pay') ? path : `/booking/${of}`
  if (area === 'my') return `/my/${of}`
  if (area === 'quay' || area === 'deck') return `/${area}?sailing=${of}`
  if (area === 'book') return '/'
  return area === 'sell' ? '/bookings' : `/${area}`
}

const query = (to: string, told: Record<string, string>): string => {
  const words = new URLSearchParams(told).toString()
  return words === '' ? '' : `${to.includes('?') ? '&' : '?'}${words}`
}

function redirect(response: ServerResponse, to: string): void {
  response.writeHead(303, { location: to }).end()
}

function send(response: ServerResponse, status: number, type: string, body: string): void {
  response.writeHead(status, { 'content-type': `${type}; charset=utf-8` })
  response.end(body)
}

const usualPort = 4330
// Started by itself, and not by somebody else.
if (process.argv[1] === fileURLToPath(import.meta.url))
  void startCrossingDesk({ port: Number(process.argv[2] ?? usualPort) }).then(({ url }) => {
    process.stdout.write(`Crossing Desk is at ${url}\n`)
  })
