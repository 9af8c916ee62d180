import { z } from 'zod'
import { afterVerdicts } from './after-verdict.ts'
import { contract } from '#core/lib/contract.ts'
import { roles } from '#core/lib/rights.ts'
import { done, line, none } from '#core/lib/shapes.ts'
import { linkPurposes } from './link.ts'

export const role = z.enum(roles)
export const email = z
  .email('an e-mail address looks like mira@tarnsey.example')
  .max(200)
  .transform((address) => address.toLowerCase())
/** OWASP ASVS 4.0.3, 2.1.1 and 2.1.2: twelve characters or more, any characters, no rules of composition. */
export const leastPassword = 12
export const newPassword = z
  .string()
  .min(leastPassword, `has fewer than ${leastPassword} characters`)
  .max(200, 'has more than 200 characters')
/** What was typed as one’s own password, to show that it is oneself who asks. */
export const ownPassword = z.string().min(1, 'type your password, so that it is sure to be you').max(200)
/** Installation-wide id of a person. */
const personId = z.string().min(1).max(60)
export const personParams = z.object({ person: personId })

export const personShape = z.object({ id: z.string(), name: z.string(), initials: z.string() })
const me = z.object({
  id: z.string(),
  name: z.string(),
  email: z.string(),
  administrator: z.boolean(),
  /** How dates are written, such as `en-GB`. */
  language: z.string(),
  /** `null`: that of the project. */
  timeZone: z.string().nullable(),
  /** What comes at the desk after a verdict. */
  afterVerdict: z.enum(afterVerdicts),
  picture: z.boolean(),
  projects: z.array(z.object({ key: z.string(), name: z.string(), product: z.string(), role })),
})
export type Me = z.infer<typeof me>

export const signIn = contract({
  name: 'signIn',
  method: 'POST',
  path: '/sign-in',
  permission: 'open',
  summary: 'Sign in; sets the sign-in cookie',
  params: none,
  query: none,
  body: z.object({
    email: z.email('an e-mail address looks like mira@tarnsey.example'),
    password: z.string().min(1, 'may not be empty').max(200),
  }),
  output: z.union([me, z.object({ code: z.literal('asked') })]),
})
export const signInWithCode = contract({
  name: 'signInWithCode',
  method: 'POST',
  path: '/sign-in/code',
  permission: 'open',
  summary: 'The second step of a sign-in: a code of the second factor, or one of its recovery codes',
  params: none,
  query: none,
  body: z.object({ code: z.string().trim().min(6, 'a code has six digits').max(40) }),
  output: me,
})
export const signOut = contract({
  name: 'signOut',
  method: 'DELETE',
  path: '/sign-in',
  permission: 'open',
  summary: 'Sign out',
  params: none,
  query: none,
  body: none,
  output: done,
})
export const readMe = contract({
  name: 'readMe',
  method: 'GET',
  path: '/me',
  permission: 'person',
  summary: 'Who is signed in, with their projects',
  params: none,
  query: none,
  body: none,
  output: me,
})

/** What a one-time link bears. */
const linkSecret = z.string().min(20).max(200)
export const askNewPassword = contract({
  name: 'askNewPassword',
  method: 'POST',
  path: '/password/forgotten',
  permission: 'open',
  summary: 'Send a one-time link for a new password, if the address is of one of the people here',
  params: none,
  query: none,
  body: z.object({ email }),
  output: z.object({ told: line(400) }),
})
export const lookAtLink = contract({
  name: 'lookAtLink',
  method: 'POST',
  path: '/password/link',
  permission: 'open',
  summary: 'Whom a one-time link is for, and whether it still works',
  params: none,
  query: none,
  body: z.object({ link: linkSecret }),
  output: z.object({ name: z.string(), email: z.string(), purpose: z.enum(linkPurposes), endsAt: z.number() }),
})
export const choosePassword = contract({
  name: 'choosePassword',
  method: 'POST',
  path: '/password',
  permission: 'open',
  summary: 'Choose a password by a one-time link; all sign-ins of before end',
  params: none,
  query: none,
  body: z.object({ link: linkSecret, password: newPassword }),
  output: done,
})
