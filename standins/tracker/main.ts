import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'

/**
 * A stand-in for a tracker of issues: it answers as a real one would, with its latency, its refusals and its restarts.
 * `POST /behave {"latency": 800, "errors": 2}` makes it slow, or fail the next requests; `PUT /api/issues/REF` edits an issue.
 */
export interface Issue {
  readonly ref: string
  title: string
  state: string
  assignee: string | null
  body: string
  changed: string
}

const day = 86_400_000
const before = (days: number): string => new Date(Date.now() - days * day).toISOString()
const first = (): Issue[] => [
  {
    ref: 'HARB-212',
    title: 'Largest reduction wins',
    state: 'agreed',
    assignee: 'Mira Kell',
    body: 'Where several reductions apply to one passenger, only the largest is given. A voucher is used after it.',
    changed: before(6),
  },
  {
    ref: 'HARB-231',
    title: 'Hold ends after twenty minutes',
    state: 'being built',
    assignee: 'Tobin Rask',
    body: 'A held place is free again after twenty minutes. The clerk sees the time that is left.',
    changed: before(2),
  },
  {
    ref: 'HARB-240',
    title: 'Dogs on the sun deck',
    state: 'new',
    assignee: null,
    body: 'Dogs on a lead may be on the sun deck. They are counted like bicycles.',
    changed: before(1),
  },
  {
    ref: 'HARB-241',
    title: 'Refund to another card',
    state: 'new',
    assignee: 'Ansa Lind',
    body: 'A refund can go to another card of the same holder. It asks for a second confirmation.',
    changed: before(1),
  },
]

export interface TrackerOptions {
  readonly port: number
  readonly token: string
  /** Issues it has beside its own few. */
  readonly issues?: readonly Issue[]
}

/** Starts the tracker; answers its address and a way to stop it. */
export async function startTracker({
  port,
  token,
  issues: more = [],
}: TrackerOptions): Promise<{ url: string; stop: () => Promise<void> }> {
  const issues = new Map([...first(), ...more].map((issue) => [issue.ref, { ...issue }]))
  const manner = { latency: 40, errors: 0 }
  const server = createServer((request, response) => {
    setTimeout(
      () => void answer(request, response).catch((error: unknown) => send(response, 500, { problem: String(error) })),
      manner.latency,
    )
  })
  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = new URL(request.url ?? '/', 'http://tracker')
    if (url.pathname === '/behave' && request.method === 'POST')
      return send(response, 200, Object.assign(manner, await jsonOf(request)))
    if (request.headers.authorization !== `Bearer ${token}`) return send(response, 401, { problem: 'no valid token' })
    if (manner.errors > 0) {
      manner.errors -= 1
      return send(response, 503, { problem: 'being restarted' })
    }
    const ref = /^\/api\/issues\/([^/]+)$/.exec(url.pathname)?.[1]
    const issue = ref === undefined ? undefined : issues.get(decodeURIComponent(ref))
    if (ref === undefined && url.pathname === '/api/issues')
      return send(response, 200, {
        issues: [...issues.values()]
          .filter(({ title, body }) =>
            `${title} ${body}`.toLowerCase().includes((url.searchParams.get('words') ?? '').toLowerCase()),
          )
          .map((each) => told(each)),
      })
    if (!issue) return send(response, 404, { problem: 'no such issue' })
    if (request.method === 'PUT')
      Object.assign(issue, await jsonOf(request), { ref: issue.ref, changed: new Date().toISOString() })
    send(response, 200, told(issue))
  }
  await new Promise<void>((resolve) => void server.listen(port, '127.0.0.1', resolve))
  const address = server.address()
  const base = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : port}`
  const told = (issue: Issue) => ({ ...issue, address: `${base}/issues/${issue.ref}` })
  return { url: base, stop: () => new Promise((resolve) => void server.close(() => resolve())) }
}

function send(response: ServerResponse, status: number, body: unknown): void {
  response.writeHead(status, { 'content-type': 'application/json' })
  response.end(JSON.stringify(body))
}

async function jsonOf(request: IncomingMessage): Promise<Record<string, unknown>> {
  const parts: Buffer[] = []
  for await (const part of request) parts.push(Buffer.from(part))
  const told: unknown = JSON.parse(Buffer.concat(parts).toString('utf8') || '{}')
  return typeof told === 'object' && told !== null ? { ...told } : {}
}
