import { createServer, type Server } from 'node:http'
import { collectDefaultMetrics, Counter, Histogram, Registry } from 'prom-client'
import type { Answered } from './front-door.ts'
import type { Stall } from './loop-watch.ts'

export interface Metrics {
  readonly count: (answered: Answered) => void
  readonly stalled: (stall: Stall) => void
  /** In the text format of OpenMetrics’ predecessor, which every collector reads. */
  readonly text: () => Promise<string>
}

const buckets = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10]

/** What this process did and how it is: requests by place, their times, memory, the event loop. */
export function newMetrics(): Metrics {
  const registers = [new Registry()]
  const [register] = registers
  collectDefaultMetrics({ register: register!, prefix: 'rovant_' })
  const requests = new Counter({
    name: 'rovant_requests_total',
    help: 'Requests that were answered, by method, place and status',
    labelNames: ['method', 'place', 'status'],
    registers,
  })
  const seconds = new Histogram({
    name: 'rovant_request_seconds',
    help: 'How long answers took, by place',
    labelNames: ['place'],
    buckets,
    registers,
  })
  const stalls = new Histogram({
    name: 'rovant_stall_seconds',
    help: 'Times of more than 20 ms in which nobody was answered',
    buckets: [0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
    registers,
  })
  return {
    stalled: ({ ms }) => stalls.observe(ms / 1000),
    count: ({ method, path, status, ms }) => {
      const place = placeOf(path)
      requests.inc({ method, place, status: String(status) })
      seconds.observe({ place }, ms / 1000)
    },
    text: () => register!.metrics(),
  }
}

/** Few enough to count by: the area of the API a path is of, `page` or `file`; never a key or an id. */
export function placeOf(path: string): string {
  const inProject = /^\/api\/v1\/projects\/[A-Z0-9]+\/([a-z-]+)/.exec(path)?.[1]
  if (inProject) return `api ${inProject}`
  if (path.startsWith('/api/')) return 'api'
  return path.startsWith('/_astro/') ? 'file' : 'page'
}

/** Serves them on a port of this machine alone. */
export function serveMetrics(metrics: Metrics, port: number): Promise<Server> {
  const server = createServer((request, response) => {
    if (request.url !== '/metrics') return void response.writeHead(404).end()
    void metrics
      .text()
      .then((text) => response.writeHead(200, { 'content-type': 'text/plain; version=0.0.4' }).end(text))
  })
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve(server))
  })
}
