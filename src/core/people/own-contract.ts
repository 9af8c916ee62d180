import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, id, instant, line, none } from '#core/lib/shapes.ts'
import { newPassword, ownPassword, personParams } from './contract.ts'
import { afterVerdicts } from './after-verdict.ts'
import { languages } from './language.ts'
import { tokenScopes } from './token.ts'

// What people set of themselves. Whoever changes how they come in shows by their password that it is they.

const own = { permission: 'person', params: none, query: none } as const

export const updateMe = contract({
  ...own,
  name: 'updateMe',
  method: 'PATCH',
  path: '/me',
  summary:
    'Change your own name, the language dates are written in, your time zone, what comes at the desk after a verdict',
  body: z
    .object({
      name: line(100),
      language: z.enum(languages),
      afterVerdict: z.enum(afterVerdicts),
      timeZone: z.string().max(60).refine(isTimeZone, 'is no time zone; one looks like Europe/Oslo').nullable(),
    })
    .partial(),
  output: done,
})
export const setPicture = contract({
  ...own,
  name: 'setPicture',
  method: 'PUT',
  path: '/me/picture',
  summary: 'A small picture of yourself, as PNG or JPEG of at most 200 kB',
  body: none,
  output: done,
  raw: true,
})
export const dropPicture = contract({
  ...own,
  name: 'dropPicture',
  method: 'DELETE',
  path: '/me/picture',
  summary: 'Take your picture away',
  body: none,
  output: done,
})
export const readPicture = contract({
  name: 'readPicture',
  method: 'GET',
  path: '/people/:person/picture',
  permission: 'person',
  summary: 'The picture of a person with whom you share a project',
  params: personParams,
  query: none,
  body: none,
  output: z.unknown(),
  raw: true,
})
export const changePassword = contract({
  ...own,
  name: 'changePassword',
  method: 'POST',
  path: '/me/password',
  summary: 'Change your password; your other sign-ins end',
  body: z.object({ password: ownPassword, next: newPassword }),
  output: done,
})

const signInShape = z.object({
  id: z.string(),
  device: z.string(),
  address: z.string(),
  since: instant,
  lastUsedAt: instant.nullable(),
  /** The one this was asked with. */
  here: z.boolean(),
})
export const listSignIns = contract({
  ...own,
  name: 'listSignIns',
  method: 'GET',
  path: '/me/sign-ins',
  summary: 'Where you are signed in',
  body: none,
  output: z.object({ rows: z.array(signInShape) }),
})
export const endSignIn = contract({
  ...own,
  name: 'endSignIn',
  method: 'DELETE',
  path: '/me/sign-ins/:signIn',
  summary: 'End one of your sign-ins',
  params: z.object({ signIn: z.string().min(1).max(60) }),
  body: none,
  output: done,
})
export const endOtherSignIns = contract({
  ...own,
  name: 'endOtherSignIns',
  method: 'DELETE',
  path: '/me/sign-ins',
  summary: 'End all your sign-ins but this one',
  body: none,
  output: z.object({ ended: z.number() }),
})

const tokenShape = z.object({
  id,
  name: z.string(),
  scope: z.enum(tokenScopes),
  /** The key of the one project it works for. */
  project: z.string().nullable(),
  createdAt: instant,
  lastUsedAt: instant.nullable(),
  endsAt: instant.nullable(),
})
export const listTokens = contract({
  ...own,
  name: 'listTokens',
  method: 'GET',
  path: '/me/tokens',
  summary: 'Your tokens that work',
  body: none,
  output: z.object({ rows: z.array(tokenShape) }),
})
export const makeToken = contract({
  ...own,
  name: 'makeToken',
  method: 'POST',
  path: '/me/tokens',
  summary: 'Make a token; it is answered once and not kept',
  body: z.object({
    password: ownPassword,
    name: line(60),
    scope: z.enum(tokenScopes),
    project: z.string().max(20).nullable().default(null),
    days: z.number().int().min(1).max(730).nullable().default(null),
  }),
  output: z.object({ token: z.string() }),
})
export const endToken = contract({
  ...own,
  name: 'endToken',
  method: 'DELETE',
  path: '/me/tokens/:token',
  summary: 'Revoke one of your tokens',
  params: z.object({ token: z.coerce.number().int().positive() }),
  body: none,
  output: done,
})

export const readSecondFactor = contract({
  ...own,
  name: 'readSecondFactor',
  method: 'GET',
  path: '/me/second-factor',
  summary: 'Whether a code is asked of you beside your password, and by whom it is wanted',
  body: none,
  output: z.object({
    on: z.boolean(),
    codesLeft: z.number(),
    /** Names of what asks for it: the installation, projects. */
    wantedBy: z.array(z.string()),
  }),
})
export const beginSecondFactor = contract({
  ...own,
  name: 'beginSecondFactor',
  method: 'POST',
  path: '/me/second-factor',
  summary: 'Begin a second factor: its secret for an authenticator, and recovery codes; both are answered once',
  body: z.object({ password: ownPassword }),
  output: z.object({ address: z.string(), secret: z.string(), codes: z.array(z.string()) }),
})
export const confirmSecondFactor = contract({
  ...own,
  name: 'confirmSecondFactor',
  method: 'PUT',
  path: '/me/second-factor',
  summary: 'Turn the second factor on with a first code of the authenticator',
  body: z.object({
    code: z
      .string()
      .trim()
      .regex(/^\d{6}$/, 'a code has six digits'),
  }),
  output: done,
})
export const dropSecondFactor = contract({
  ...own,
  name: 'dropSecondFactor',
  method: 'DELETE',
  path: '/me/second-factor',
  summary: 'Take your second factor away',
  body: z.object({ password: ownPassword }),
  output: done,
})
export const newRecoveryCodes = contract({
  ...own,
  name: 'newRecoveryCodes',
  method: 'POST',
  path: '/me/second-factor/codes',
  summary: 'New recovery codes; those of before no longer work',
  body: z.object({ password: ownPassword }),
  output: z.object({ codes: z.array(z.string()) }),
})

function isTimeZone(zone: string | null): boolean {
  try {
    return zone === null || new Intl.DateTimeFormat('en-GB', { timeZone: zone }).format(0) !== ''
  } catch {
    return false
  }
}
