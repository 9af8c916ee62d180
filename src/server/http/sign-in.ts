import { AsyncLocalStorage } from 'node:async_hooks'
import { hash, verify } from '@node-rs/argon2'
import { betterAuth, type BetterAuthPlugin } from 'better-auth'
import { createAuthEndpoint } from 'better-auth/api'
import { setSessionCookie } from 'better-auth/cookies'
import { drizzleAdapter } from 'better-auth/adapters/drizzle'
import { twoFactor } from 'better-auth/plugins'
import { z } from 'zod'
import type { Db } from '#db/open.ts'
import { addressHeader } from './address.ts'
import { account, person, secondFactor, signIn, verification } from '#db/people/tables.ts'

/** Whom a request's cookie signs in, and the token of that sign-in. */
interface SignedIn {
  readonly personId: string
  readonly signIn: string
}

/** What came of a password or a code; the cookies of the answer are passed on. */
export interface Tried {
  readonly ok: boolean
  /** Who it is; `null` where a code is asked for beside the password, or nobody came in. */
  readonly personId: string | null
  readonly answer: Response
}

/** Where somebody comes in from, and with what: people know their sign-ins by it. */
interface From {
  readonly address: string
  readonly device: string
}

export interface SignInLibrary {
  /** The person behind a request's cookie, or `null`. */
  readonly personOf: (headers: Headers) => Promise<SignedIn | null>
  readonly tryPassword: (email: string, password: string, from: From) => Promise<Tried>
  /** The second step: six digits of the authenticator, or a recovery code. */
  readonly tryCode: (code: string, headers: Headers, from: From) => Promise<Tried>
  /** Signs somebody in whose word is taken from elsewhere: a provider outside has said who they are. */
  readonly comeIn: (personId: string, from: From) => Promise<Response>
  readonly end: (headers: Headers) => Promise<Response>
  /** A new secret for an authenticator with recovery codes; counts only once a first code has confirmed it. */
  readonly beginFactor: (headers: Headers, password: string) => Promise<{ address: string; codes: string[] } | null>
  readonly confirmFactor: (headers: Headers, code: string) => Promise<Tried>
  readonly dropFactor: (headers: Headers, password: string) => Promise<Tried>
  readonly newCodes: (headers: Headers, password: string) => Promise<string[] | null>
  /** Recovery codes that are left. */
  readonly codesLeft: (personId: string) => Promise<number>
}

export const hashPassword = (password: string): Promise<string> => hash(password)
export const isPassword = (stored: string, password: string): Promise<boolean> => verify(stored, password)

/** What a request is signed in with, so that what was opened with it can be ended with it. */
export const signInOf = (headers: Headers): string =>
  headers.get('authorization') ??
  /(?:^|;\s*)(?:__Secure-)?rovant\.session_token=([^;]+)/.exec(headers.get('cookie') ?? '')?.[1] ??
  ''

const base = 'http://rovant.internal'
const came = z.object({ user: z.object({ id: z.string() }) })
const begun = z.object({ totpURI: z.string(), backupCodes: z.array(z.string()) })
const renewed = z.object({ backupCodes: z.array(z.string()) })

/** How passwords are kept: as hashes of Argon2id (RFC 9106). */
interface Passwords {
  readonly hash: (password: string) => Promise<string>
  readonly verify: (stored: string, password: string) => Promise<boolean>
}
interface LibraryOf {
  readonly secret: string
  readonly secure: boolean
  readonly passwords?: Passwords
}

/** Sign-in by the standard library: passwords hashed, sign-ins in the database, a second factor by its plugin. */
export function signInLibrary(db: Db, of: LibraryOf): SignInLibrary {
  const auth = libraryOf(db, of)
  const post = async (path: string, headers: Headers, body: unknown): Promise<Tried> => {
    const sent = new Headers({ 'content-type': 'application/json' })
    for (const name of ['cookie', addressHeader, 'user-agent']) sent.set(name, headers.get(name) ?? '')
    const request = new Request(`${base}/api/auth${path}`, {
      method: 'POST',
      headers: sent,
      body: JSON.stringify(body),
    })
    const answer = await failures.run({}, async () => {
      const given = await auth.handler(request)
      // It answers a failure of ours, such as a full disk, with no word of what it was.
      const { error } = failures.getStore() ?? {}
      if (given.status >= 500) throw error ?? new Error(`the sign-in library answered ${given.status}`)
      return given
    })
    const read = came.safeParse(await bodyOf(answer))
    return { ok: answer.ok, personId: read.success ? read.data.user.id : null, answer }
  }
  const comingFrom = ({ address, device }: From, cookie = ''): Headers =>
    new Headers({ cookie, [addressHeader]: address, 'user-agent': device })
  return {
    personOf: async (headers) => {
      if (!headers.has('cookie')) return null
      const found = await auth.api.getSession({ headers, query: { disableRefresh: true } })
      return found && { personId: found.user.id, signIn: found.session.token }
    },
    tryPassword: (email, password, from) => post('/sign-in/email', comingFrom(from), { email, password }),
    tryCode: (code, headers, from) =>
      post(
        isDigits(code) ? '/two-factor/verify-totp' : '/two-factor/verify-backup-code',
        comingFrom(from, headers.get('cookie') ?? ''),
        { code },
      ),
    comeIn: (personId, from) => auth.api.comeIn({ body: { personId }, headers: comingFrom(from), asResponse: true }),
    end: async (headers) => (await post('/sign-out', headers, {})).answer,
    beginFactor: async (headers, password) => {
      const { answer } = await post('/two-factor/enable', headers, { password, issuer: 'Rovant' })
      const read = begun.safeParse(await bodyOf(answer))
      return read.success ? { address: read.data.totpURI, codes: read.data.backupCodes } : null
    },
    confirmFactor: (headers, code) => post('/two-factor/verify-totp', headers, { code }),
    dropFactor: (headers, password) => post('/two-factor/disable', headers, { password }),
    newCodes: async (headers, password) => {
      const { answer } = await post('/two-factor/generate-backup-codes', headers, { password })
      const read = renewed.safeParse(await bodyOf(answer))
      return read.success ? read.data.backupCodes : null
    },
    codesLeft: async (userId) => (await auth.api.viewBackupCodes({ body: { userId } })).backupCodes.length,
  }
}

/** What failed while the library answered; one answer is told apart from another that is made at the same time. */
const failures = new AsyncLocalStorage<{ error?: unknown }>()

const isDigits = (code: string): boolean => /^\d{6}$/.test(code)

async function bodyOf(answer: Response): Promise<unknown> {
  try {
    return await answer.clone().json()
  } catch {
    return null
  }
}

/** A way in for our own code alone: it has no address. */
const comingIn = {
  id: 'coming-in',
  endpoints: {
    comeIn: createAuthEndpoint.serverOnly({ method: 'POST', body: z.object({ personId: z.string() }) }, async (ctx) => {
      const user = await ctx.context.internalAdapter.findUserById(ctx.body.personId)
      if (!user) throw new Error(`there is no person ${ctx.body.personId}`)
      const session = await ctx.context.internalAdapter.createSession(user.id)
      await setSessionCookie(ctx, { session, user })
      return ctx.json({ user: { id: user.id } })
    }),
  },
} satisfies BetterAuthPlugin

const libraryOf = (db: Db, { secret, secure, passwords = { hash: hashPassword, verify: isPassword } }: LibraryOf) =>
  betterAuth({
    appName: 'Rovant',
    baseURL: base,
    secret,
    database: drizzleAdapter(db, {
      provider: 'sqlite',
      schema: { user: person, session: signIn, account, verification, twoFactor: secondFactor },
    }),
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      password: {
        hash: (password) => passwords.hash(password),
        verify: ({ hash: stored, password }) => passwords.verify(stored, password),
      },
    },
    plugins: [twoFactor({ issuer: 'Rovant' }), comingIn],
    user: { additionalFields: { administrator: { type: 'boolean', input: false } } },
    session: { expiresIn: 60 * 60 * 24 * 14, updateAge: 60 * 60 * 24 },
    // Guesses are counted by us, per account and by the address the front door tells.
    rateLimit: { enabled: false },
    // The origin of every writing request is checked by our own middleware, for all of the API alike.
    advanced: {
      cookiePrefix: 'rovant',
      useSecureCookies: secure,
      disableCSRFCheck: true,
      ipAddress: { ipAddressHeaders: [addressHeader] },
      defaultCookieAttributes: { sameSite: 'lax', httpOnly: true },
    },
    onAPIError: {
      onError: (error) => {
        const kept = failures.getStore()
        if (kept) kept.error = error
      },
    },
    telemetry: { enabled: false },
    logger: { disabled: true },
  })
