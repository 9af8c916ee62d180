import * as openid from 'openid-client'
import { z } from 'zod'
import type { readSignOn as readContract, updateSignOn as updateContract } from '#core/people/sign-on-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { keepSignOn, signOnOf, type SignOnStored } from '#db/installation/sign-on.ts'
import { allGroups, findGroup, setGroup } from '#db/people/groups.ts'
import { addPerson, knownByEmail, noteProvider } from '#db/people/people.ts'
import type { Context } from '#server/http/context.ts'
import type { Seal } from '#server/http/seal.ts'
import type { Services } from '#server/http/services.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { newPersonId } from '#server/http/secret.ts'
import { whileTold } from './keep-groups.ts'
import { cameIn, deviceIn, type Door } from './sign-in.ts'

/** Where the provider leads people back to. */
const backPath = '/sso/back'
const backAt = ({ baseAddress }: Pick<Services, 'baseAddress'>): string => `${baseAddress ?? ''}${backPath}`

export async function readSignOn(
  { tx, services }: OpenContext,
  _: Input<typeof readContract>,
): Promise<Answer<typeof readContract>> {
  const { secret, ...stored } = signOnOf(tx)
  return { ...stored, secret: (services.seal.open(secret) ?? '') !== '', back: backAt(services) }
}

export async function updateSignOn(
  context: OpenContext,
  { body }: Input<typeof updateContract>,
): Promise<Answer<typeof updateContract>> {
  const { seal } = context.services
  const before = signOnOf(context.tx)
  const { secret, ...edit } = body
  const next: SignOnStored = { ...before, ...edit, ...(secret !== undefined && { secret: seal.close(secret) }) }
  if (next.issuer === '') next.only = false
  for (const { group } of next.groups)
    if (!findGroup(context.tx, group))
      throw new Refusal('invalid', `There is no group ${group} here; nothing was changed.`, {
        fields: [{ field: 'groups', message: 'names one that is not there' }],
      })
  // A provider that cannot be asked would shut everybody out.
  if (next.issuer !== '' && (next.issuer !== before.issuer || (next.only && !before.only)))
    await configOf(next, seal.open(next.secret) ?? '')
  context.store((inside) => {
    keepSignOn(inside.tx, next)
    inside.secure({ kind: 'setting', told: signOnTold(next), person: null })
  })
  return { ok: true }
}

const signOnTold = ({ issuer, name, only }: SignOnStored): string =>
  issuer === ''
    ? 'Nobody signs in by a provider outside any more'
    : `People sign in by ${name || issuer}${only ? ', and, but for administrators, by nothing else' : ' too'}`

const patience = 8

/** What the provider says of itself. Plain http is taken for addresses of this machine alone: stand-ins and tests. */
async function configOf(of: SignOnStored, secret: string): Promise<openid.Configuration> {
  const issuer = new URL(of.issuer)
  const own = issuer.protocol === 'http:' && ['localhost', '127.0.0.1', '[::1]'].includes(issuer.hostname)
  try {
    return await openid.discovery(issuer, of.clientId, secret, undefined, {
      timeout: patience,
      // What it says of somebody is held against the keys it publishes, and not believed for the line it came by.
      execute: [openid.enableNonRepudiationChecks, ...(own ? [openid.allowInsecureRequests] : [])],
    })
  } catch (error) {
    throw notAsked(of, error)
  }
}

const notAsked = (of: SignOnStored, error: unknown): Refusal =>
  new Refusal(
    'refused',
    `${of.name || of.issuer} could not be asked who you are (${error instanceof Error ? error.message.slice(0, 120) : 'no reason given'}). Try again, or tell an administrator.`,
  )

/** What is kept in the browser between the way out and the way back, sealed. */
const pendingShape = z.object({
  state: z.string(),
  nonce: z.string(),
  verifier: z.string(),
  to: z.string(),
  endsAt: z.number(),
})
const pendingLasts = 600_000

function openSignOn(services: Services): { of: SignOnStored; secret: string } {
  const of = signOnOf(services.db)
  if (of.issuer === '') throw new Refusal('not-found', 'Nobody signs in by a provider outside here.')
  const secret = services.seal.open(of.secret)
  if (secret === null)
    throw new Refusal(
      'refused',
      'What the provider is asked with was sealed with another key; an administrator gives it again.',
    )
  return { of, secret }
}

/** The address of the provider to go to, and what the browser keeps until it comes back. */
export async function leaveForSignOn(services: Services, to: string): Promise<{ address: string; pending: string }> {
  const { of, secret } = openSignOn(services)
  const config = await configOf(of, secret)
  const [state, nonce, verifier] = [openid.randomState(), openid.randomNonce(), openid.randomPKCECodeVerifier()]
  const address = openid.buildAuthorizationUrl(config, {
    redirect_uri: backAt(services),
    scope: 'openid email profile',
    code_challenge: await openid.calculatePKCECodeChallenge(verifier),
    code_challenge_method: 'S256',
    state,
    nonce,
  })
  const kept = { state, nonce, verifier, to, endsAt: services.now() + pendingLasts }
  return { address: address.href, pending: services.seal.close(JSON.stringify(kept)) }
}

const claimsShape = z.looseObject({
  email: z.string().optional(),
  email_verified: z.union([z.boolean(), z.string()]).optional(),
  name: z.string().optional(),
})

/** Who comes back from the provider is signed in, by the address it has verified; the answer bears the cookies. */
export async function comeBack(
  door: Door & { readonly services: Services },
  of: { readonly search: string; readonly pending: string | undefined },
): Promise<{ to: string; answer: Response }> {
  const { services, store } = door
  const pending = pendingIn(services, of.pending)
  const { of: signOn, secret } = openSignOn(services)
  const claims = await claimsFrom(services, { signOn, secret, search: of.search, pending })
  const personId = store((context) => personBy(context, signOn, claims))
  cameIn(store, personId, ` by ${signOn.name || 'the provider'}`)
  return {
    to: pending.to,
    answer: await services.signIn.comeIn(personId, { address: door.address, device: deviceIn(door.request) }),
  }
}

type Pending = z.infer<typeof pendingShape>

function pendingIn({ seal, now }: Services, kept: string | undefined): Pending {
  const opened = kept === undefined ? null : seal.open(kept)
  const read = pendingShape.safeParse(jsonOf(opened))
  if (!read.success || read.data.endsAt < now())
    throw new Refusal('not-signed-in', 'This sign-in was begun too long ago, or in another browser. Begin again.')
  return read.data
}

function jsonOf(text: string | null): unknown {
  try {
    return text === null ? null : JSON.parse(text)
  } catch {
    return null
  }
}

interface Coming {
  readonly signOn: SignOnStored
  readonly secret: string
  readonly search: string
  readonly pending: Pending
}

async function claimsFrom(services: Services, { signOn, secret, search, pending }: Coming): Promise<Claims> {
  const config = await configOf(signOn, secret)
  try {
    const tokens = await openid.authorizationCodeGrant(config, new URL(`${backAt(services)}${search}`), {
      pkceCodeVerifier: pending.verifier,
      expectedState: pending.state,
      expectedNonce: pending.nonce,
      idTokenExpected: true,
    })
    return claimsShape.parse(tokens.claims())
  } catch (error) {
    throw notAsked(signOn, error)
  }
}
type Claims = z.infer<typeof claimsShape>

/** The person with the address the provider has verified; somebody new only where a group of theirs is one of ours. */
function personBy(context: Context, signOn: SignOnStored, claims: Claims): string {
  const email = claims.email?.toLowerCase()
  const verified = claims.email_verified === true || claims.email_verified === 'true'
  if (email === undefined || !verified)
    throw new Refusal(
      'not-signed-in',
      `${signOn.name || 'The provider'} has not verified your e-mail address, so nobody can be sure it is you.`,
    )
  const outside = groupsIn(claims[signOn.groupsClaim])
  const known = knownByEmail(context.tx, email)
  if (!known && !signOn.groups.some((each) => outside.includes(each.outside)))
    throw new Refusal(
      'not-signed-in',
      `Nobody here has the address ${email}. Ask a lead or an administrator to bring you in.`,
    )
  const person = known?.id ?? newPersonId()
  if (!known) {
    addPerson(
      context.tx,
      { id: person, name: claims.name ?? email, email, administrator: false, passwordHash: null },
      context.now,
    )
    context.secure({ kind: 'person', told: `${claims.name ?? email} (${email}) came by ${signOn.name}`, person })
  }
  noteProvider(context.tx, person, context.now)
  settleGroups(context, signOn, { person, outside })
  return person
}

const groupsIn = (claim: unknown): string[] =>
  Array.isArray(claim) ? claim.map(String) : typeof claim === 'string' ? claim.split(/[\s,]+/) : []

/** The table says of some of our groups that they are those outside: of these a person is in what the provider says, and in no other. */
function settleGroups(
  context: Context,
  { groups }: SignOnStored,
  { person, outside }: { readonly person: string; readonly outside: readonly string[] },
): void {
  const { tx } = context
  const governed = new Set(groups.map(({ group }) => group))
  const inside = new Set(groups.filter((each) => outside.includes(each.outside)).map(({ group }) => group))
  for (const { id, people } of allGroups(tx)) {
    if (!governed.has(id)) continue
    const ids = people.map((each) => each.id)
    const is = ids.includes(person)
    if (inside.has(id) === is) continue
    const next = is ? ids.filter((each) => each !== person) : [...ids, person]
    whileTold(context, id, () => setGroup(tx, id, { people: next }))
  }
}

/** Lets people sign in by a provider from the command line; who is in “load” there is in the first group here. */
export function connectSignOn(
  db: Context['tx'],
  seal: Seal,
  of: { readonly issuer: string; readonly name: string; readonly clientId: string; readonly secret: string },
): void {
  const [group] = allGroups(db)
  const groups = group ? [{ outside: 'load', group: group.id }] : []
  keepSignOn(db, { ...of, secret: seal.close(of.secret), only: false, groupsClaim: 'groups', groups })
}
