import { hash, verify } from '@node-rs/argon2'
import { betterAuth } from 'better-auth'
import { drizzleAdapter } from 'better-auth/adapters/drizzle'
import type { Db } from '#db/open.ts'
import { addressHeader } from './address.ts'
import { account, person, signIn, verification } from '#db/people/tables.ts'

export interface SignInLibrary {
  /** The person behind a request's cookie, or `null`. */
  readonly personOf: (headers: Headers) => Promise<string | null>
  /** Tries a password; answers the library's own response, whose cookies are passed on. */
  readonly tryPassword: (email: string, password: string, address: string) => Promise<Response>
  readonly end: (headers: Headers) => Promise<Response>
}

export const hashPassword = (password: string): Promise<string> => hash(password)

/** What a request is signed in with, so that what was opened with it can be ended with it. */
export const signInOf = (headers: Headers): string =>
  headers.get('authorization') ??
  /(?:^|;\s*)(?:__Secure-)?rovant\.session_token=([^;]+)/.exec(headers.get('cookie') ?? '')?.[1] ??
  ''

const base = 'http://rovant.internal'

/** Sign-in by the standard library: passwords hashed with Argon2id, sign-ins in the database. */
export function signInLibrary(db: Db, of: { secret: string; secure: boolean }): SignInLibrary {
  const auth = betterAuth({
    baseURL: base,
    secret: of.secret,
    database: drizzleAdapter(db, {
      provider: 'sqlite',
      schema: { user: person, session: signIn, account, verification },
    }),
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      password: {
        hash: (password) => hash(password),
        verify: ({ hash: stored, password }) => verify(stored, password),
      },
    },
    user: { additionalFields: { administrator: { type: 'boolean', input: false } } },
    session: { expiresIn: 60 * 60 * 24 * 14, updateAge: 60 * 60 * 24 },
    // Guesses are counted by us, per account and by the address the front door tells.
    rateLimit: { enabled: false },
    // The origin of every writing request is checked by our own middleware, for all of the API alike.
    advanced: {
      cookiePrefix: 'rovant',
      useSecureCookies: of.secure,
      disableCSRFCheck: true,
      ipAddress: { ipAddressHeaders: [addressHeader] },
      defaultCookieAttributes: { sameSite: 'lax', httpOnly: true },
    },
    telemetry: { enabled: false },
    logger: { disabled: true },
  })
  const post = (path: string, headers: Headers, body: unknown) =>
    auth.handler(new Request(`${base}/api/auth${path}`, { method: 'POST', headers, body: JSON.stringify(body) }))
  return {
    personOf: async (headers) =>
      headers.has('cookie')
        ? ((await auth.api.getSession({ headers, query: { disableRefresh: true } }))?.user.id ?? null)
        : null,
    tryPassword: (email, password, address) =>
      post('/sign-in/email', new Headers({ 'content-type': 'application/json', [addressHeader]: address }), {
        email,
        password,
      }),
    end: (headers) =>
      post('/sign-out', new Headers({ 'content-type': 'application/json', cookie: headers.get('cookie') ?? '' }), {}),
  }
}
