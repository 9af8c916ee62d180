import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, line, none } from '#core/lib/shapes.ts'

// Single sign-on by OpenID Connect: who somebody is, is said by a provider outside.

const signOnPath = { path: '/single-sign-on', permission: 'keepInstallation', params: none, query: none } as const
const settings = {
  /** What people know the provider by. */
  name: z.string().trim().max(60),
  /** Its address; empty: there is no single sign-on. */
  issuer: z.union([
    z.literal(''),
    z.url({ protocol: /^https?$/, error: 'an address begins with http:// or https://' }).max(300),
  ]),
  clientId: z.string().trim().max(200),
  /** Nobody but administrators comes in by a password any more. */
  only: z.boolean(),
  /** The claim that names a person’s groups outside. */
  groupsClaim: z.string().trim().max(60),
  /** Who is in a group outside is in one of ours, and gets what it gives; nobody knows yet who that is. */
  groups: z.array(z.object({ outside: line(200), group: z.number().int().positive() })).max(200),
}
export const readSignOn = contract({
  ...signOnPath,
  name: 'readSignOn',
  method: 'GET',
  summary: 'The provider people may sign in by; `secret` says whether one is set',
  body: none,
  output: z.object({ ...settings, secret: z.boolean(), back: z.string() }),
})
export const updateSignOn = contract({
  ...signOnPath,
  name: 'updateSignOn',
  method: 'PATCH',
  summary: 'Let people sign in by a provider of OpenID Connect; an empty address takes it away',
  body: z.object({ ...settings, secret: z.string().max(400) }).partial(),
  output: done,
})
