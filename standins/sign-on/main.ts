import { createHash, randomBytes } from 'node:crypto'
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import { exportJWK, generateKeyPair, SignJWT } from 'jose'

/**
 * A stand-in for a provider of OpenID Connect: people are chosen on a page in place of typing a password. `POST /behave?…` makes it
 * misbehave until it is asked otherwise: `unverified=yes` (addresses are not verified), `token=no` (codes are refused),
 * `nonce=wrong`, `key=other` (signed with a key it does not publish), `down=yes`.
 */
export interface Somebody {
  readonly name: string
  readonly email: string
  readonly groups: readonly string[]
}

export interface SignOnOptions {
  readonly port: number
  readonly clientId: string
  readonly secret: string
  readonly people: readonly Somebody[]
}

interface Code {
  readonly who: Somebody
  readonly nonce: string
  readonly challenge: string
}

/** Starts it; answers its address and a way to stop it. */
export async function startSignOn(of: SignOnOptions): Promise<{ url: string; stop: () => Promise<void> }> {
  const provider = await newProvider(of)
  const server = createServer((request, response) => {
    void answer(provider, request, response).catch((error: unknown) => json(response, 500, { error: String(error) }))
  })
  await new Promise<void>((resolve) => void server.listen(of.port, '127.0.0.1', resolve))
  const bound = server.address()
  provider.base = `http://127.0.0.1:${typeof bound === 'object' && bound ? bound.port : of.port}`
  return { url: provider.base, stop: () => new Promise((resolve) => void server.close(() => resolve())) }
}

interface Provider {
  readonly of: SignOnOptions
  readonly codes: Map<string, Code>
  readonly jwk: object
  readonly sign: (claims: Record<string, unknown>, subject: string) => Promise<string>
  base: string
  /** How it misbehaves. */
  manner: URLSearchParams
}

async function newProvider(of: SignOnOptions): Promise<Provider> {
  const [own, other] = await Promise.all([generateKeyPair('RS256'), generateKeyPair('RS256')])
  const provider: Provider = {
    of,
    codes: new Map(),
    jwk: { ...(await exportJWK(own.publicKey)), kid: 'one', alg: 'RS256', use: 'sig' },
    sign: (claims, subject) =>
      new SignJWT(claims)
        .setProtectedHeader({ alg: 'RS256', kid: 'one' })
        .setIssuer(provider.base)
        .setAudience(of.clientId)
        .setSubject(subject)
        .setIssuedAt()
        .setExpirationTime('5m')
        .sign(provider.manner.get('key') === 'other' ? other.privateKey : own.privateKey),
    base: '',
    manner: new URLSearchParams(),
  }
  return provider
}

async function answer(provider: Provider, request: IncomingMessage, response: ServerResponse): Promise<void> {
  const url = new URL(request.url ?? '/', provider.base)
  if (url.pathname === '/behave') {
    provider.manner = url.searchParams
    return json(response, 200, Object.fromEntries(url.searchParams))
  }
  if (provider.manner.get('down') === 'yes') return json(response, 503, { error: 'temporarily_unavailable' })
  switch (url.pathname) {
    case '/.well-known/openid-configuration':
      return json(response, 200, metadataOf(provider.base))
    case '/jwks':
      return json(response, 200, { keys: [provider.jwk] })
    case '/authorize':
      return authorize(provider, url, response)
    case '/token':
      return token(provider, request, response)
    default:
      return json(response, 404, { error: 'not_found' })
  }
}

const metadataOf = (base: string) => ({
  issuer: base,
  authorization_endpoint: `${base}/authorize`,
  token_endpoint: `${base}/token`,
  jwks_uri: `${base}/jwks`,
  response_types_supported: ['code'],
  subject_types_supported: ['public'],
  id_token_signing_alg_values_supported: ['RS256'],
  code_challenge_methods_supported: ['S256'],
  token_endpoint_auth_methods_supported: ['client_secret_post', 'client_secret_basic'],
})

function authorize({ of, codes }: Provider, url: URL, response: ServerResponse): void {
  const asked = (name: string) => url.searchParams.get(name) ?? ''
  if (asked('client_id') !== of.clientId) return json(response, 400, { error: 'unauthorized_client' })
  const who = of.people.find(({ email }) => email === asked('as'))
  if (!who) return choose(of, url, response)
  const code = randomBytes(16).toString('hex')
  codes.set(code, { who, nonce: asked('nonce'), challenge: asked('code_challenge') })
  const back = new URL(asked('redirect_uri'))
  back.searchParams.set('code', code)
  back.searchParams.set('state', asked('state'))
  response.writeHead(303, { location: back.href }).end()
}

async function token(
  { of, codes, manner, sign }: Provider,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const form = await formOf(request)
  const code = codes.get(form.get('code') ?? '')
  codes.delete(form.get('code') ?? '')
  const proof = createHash('sha256')
    .update(form.get('code_verifier') ?? '')
    .digest('base64url')
  if (!knows(of, form, request) || manner.get('token') === 'no' || code?.challenge !== proof)
    return json(response, 400, { error: 'invalid_grant' })
  const { email, name, groups } = code.who
  const claims = {
    email,
    email_verified: manner.get('unverified') !== 'yes',
    name,
    groups,
    nonce: manner.get('nonce') === 'wrong' ? 'another' : code.nonce,
  }
  const signed = await sign(claims, email)
  json(response, 200, { access_token: randomBytes(12).toString('hex'), token_type: 'Bearer', id_token: signed })
}

function knows(of: SignOnOptions, form: URLSearchParams, request: IncomingMessage): boolean {
  const basic = /^Basic (.+)$/.exec(request.headers.authorization ?? '')?.[1]
  const [id, secret] = basic
    ? Buffer.from(basic, 'base64').toString().split(':').map(decodeURIComponent)
    : [form.get('client_id'), form.get('client_secret')]
  return id === of.clientId && secret === of.secret
}

function choose({ people }: SignOnOptions, url: URL, response: ServerResponse): void {
  const links = people.map(({ name, email }) => {
    const as = new URL(url)
    as.searchParams.set('as', email)
    return `<li><a href="${as.pathname}${as.search.replaceAll('&', '&amp;')}">${name}</a></li>`
  })
  response.writeHead(200, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' })
  response.end(
    `<!doctype html><html lang="en"><meta charset="utf-8"><title>Harbour account</title><body style="font:16px/1.6 sans-serif;max-width:420px;margin:60px auto"><h1>Who are you?</h1><p>A stand-in for a provider outside: choose whom to be.</p><ul>${links.join('')}</ul></body></html>`,
  )
}

function json(response: ServerResponse, status: number, body: unknown): void {
  response.writeHead(status, { 'content-type': 'application/json', 'cache-control': 'no-store' })
  response.end(JSON.stringify(body))
}

async function formOf(request: IncomingMessage): Promise<URLSearchParams> {
  const parts: Buffer[] = []
  for await (const part of request) parts.push(Buffer.from(part))
  return new URLSearchParams(Buffer.concat(parts).toString('utf8'))
}
