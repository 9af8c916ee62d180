import { randomBytes } from 'node:crypto'
import { defineMiddleware } from 'astro:middleware'
import { personAsking } from '#server/app/page-person.ts'

const reading = ['GET', 'HEAD', 'OPTIONS']

/** Every request: writing only from our own origin, pages only for people signed in, a strict content policy on all. */
export const onRequest = defineMiddleware(async (context, next) => {
  const { request, url } = context
  if (!reading.includes(request.method) && !ownOrigin(request, url))
    return Response.json(
      {
        type: 'urn:rovant:not-allowed',
        title: 'Not allowed',
        status: 403,
        detail: 'This request came from another site; nothing was done.',
      },
      { status: 403 },
    )
  if (url.pathname.startsWith('/api/') || url.pathname === '/healthz') return next()
  const person = await personAsking(request.headers)
  if (!person && !['/sign-in', '/set-up'].includes(url.pathname))
    return context.redirect(`/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`)
  context.locals.person = person
  return withPolicy(await next())
})

function ownOrigin(request: Request, url: URL): boolean {
  const origin = request.headers.get('origin')
  // Programs with a token send no origin; a browser always does when it writes.
  if (origin === null) return request.headers.has('authorization') || request.headers.get('sec-fetch-site') === null
  return URL.canParse(origin) && new URL(origin).host === (request.headers.get('host') ?? url.host)
}

/** The scripts a page carries inside itself get a nonce; nothing else inline may run. */
async function withPolicy(response: Response): Promise<Response> {
  if (!(response.headers.get('content-type') ?? '').startsWith('text/html')) return response
  const nonce = randomBytes(16).toString('base64')
  const html = (await response.text()).replace(/<script(?![^>]*\bsrc=)/g, `<script nonce="${nonce}"`)
  const headers = new Headers(response.headers)
  headers.set(
    'content-security-policy',
    `default-src 'self'; script-src 'self' 'nonce-${nonce}'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'`,
  )
  headers.set('x-content-type-options', 'nosniff')
  headers.set('referrer-policy', 'same-origin')
  headers.set('cache-control', 'no-store')
  headers.delete('content-length')
  return new Response(html, { status: response.status, headers })
}
