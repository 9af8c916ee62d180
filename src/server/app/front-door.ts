import { randomUUID } from 'node:crypto'
import type { IncomingMessage, RequestListener, Server, ServerResponse } from 'node:http'
import { addressHeader, forwardedHeaders, realAddress, requestHeader, type Trusts } from '#server/http/address.ts'

export interface DoorOf {
  /** Answers go out by TLS, here or at a proxy before us. */
  readonly secure: boolean
  readonly trusts: Trusts
  /** Hears of everything that was answered. */
  readonly told: (answered: Answered) => void
  /** Hears of everything that is asked, and when it has ended, answered or not. */
  readonly asked: (name: string) => () => void
}

export interface Answered {
  readonly id: string
  readonly method: string
  /** Without what is asked behind the question mark: it may hold words of people. */
  readonly path: string
  readonly status: number
  readonly ms: number
  readonly address: string
}

const methods = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'])
/** A client that is refused while it still sends has so long to read why: a line that is cut takes the answer along. */
const lingering = 15_000

/** On every answer, whoever gives it; a page or a file may say more of its own. */
const onAll = (secure: boolean): Readonly<Record<string, string>> => ({
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(), geolocation=(), microphone=(), payment=(), usb=()',
  'cache-control': 'no-store',
  ...(secure && { 'strict-transport-security': 'max-age=31536000' }),
})
const apiPolicy = "default-src 'none'; frame-ancestors 'none'"

/** What stands before all that answers: whom we really talk to, what is asked at all, and what every answer says. */
export function frontDoor({ secure, trusts, told, asked }: DoorOf, inside: RequestListener): RequestListener {
  const headers = onAll(secure)
  return (request, response) => {
    for (const [name, value] of Object.entries(headers)) response.setHeader(name, value)
    if (request.url?.startsWith('/api/')) response.setHeader('content-security-policy', apiPolicy)
    response.on('finish', () => hangUp(request))
    nameAddress(request, trusts)
    nameRequest(request, response, told)
    response.on('close', asked(`${request.method ?? ''} ${pathOf(request)}`))
    if (!methods.has(request.method ?? '')) return refuseMethod(request, response)
    inside(request, response)
  }
}

function nameAddress(request: IncomingMessage, trusts: Trusts): void {
  const forwarded = request.headers['x-forwarded-for']
  const address = realAddress(request.socket.remoteAddress ?? '', String(forwarded ?? ''), trusts)
  for (const name of forwardedHeaders) delete request.headers[name]
  request.headers[addressHeader] = address
}

function nameRequest(request: IncomingMessage, response: ServerResponse, told: DoorOf['told']): void {
  const id = randomUUID()
  const began = performance.now()
  request.headers[requestHeader] = id
  response.setHeader(requestHeader, id)
  response.on('finish', () =>
    told({
      id,
      method: request.method ?? '',
      path: pathOf(request),
      status: response.statusCode,
      ms: Math.round((performance.now() - began) * 10) / 10,
      address: String(request.headers[addressHeader]),
    }),
  )
}

/** Without what is asked behind the question mark. */
const pathOf = ({ url }: IncomingMessage): string => (url ?? '').split('?')[0] ?? ''

function refuseMethod({ method }: IncomingMessage, response: ServerResponse): void {
  const detail = `Nothing here is asked with ${method ?? 'that'}.`
  response
    .writeHead(405, { 'content-type': 'application/problem+json', allow: [...methods].join(', ') })
    .end(JSON.stringify({ type: 'urn:rovant:wrong-method', title: 'Not asked like this', status: 405, detail }))
}

/** What is still being sent after the answer is thrown away unread, and not for long. A line whose request came to its end is kept. */
function hangUp(request: IncomingMessage): void {
  if (request.complete) return
  request.resume()
  setTimeout(() => request.complete || request.socket.destroy(), lingering).unref()
}

/** Headers in 15 s, a whole request in ten minutes; each endpoint asks for its own body sooner. Lines are kept for a minute. */
export function limitTimes(server: Server): void {
  server.headersTimeout = 15_000
  // A browser that asks again after a while should not meet a line that is being closed just then.
  server.keepAliveTimeout = 65_000
  server.requestTimeout = 600_000
}
