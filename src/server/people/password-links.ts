import type {
  askNewPassword as askContract,
  choosePassword as chooseContract,
  lookAtLink as lookContract,
} from '#core/people/contract.ts'
import { linkLasts, type LinkPurpose } from '#core/people/link.ts'
import type { Letter } from '#core/integrations/mail.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addLink, endLinks, liveLink } from '#db/people/links.ts'
import { knownByEmail, knownPerson, setPassword } from '#db/people/people.ts'
import { endSignIns } from '#db/people/sign-ins.ts'
import type { Context } from '#server/http/context.ts'
import { hashOf, newSecret } from '#server/http/secret.ts'
import { hashPassword } from '#server/http/sign-in.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { refuseCommon } from './passwords.ts'
import { tellOfChange } from './tell-change.ts'

/** A new one-time link for somebody: what stands behind the address of this installation. It is told once and not kept. */
export function makeLinkFor({ tx, by }: Pick<Context, 'tx' | 'by'>, personId: string, purpose: LinkPurpose): string {
  const secret = newSecret()
  const endsAt = by.now + linkLasts[purpose]
  addLink(tx, { hash: hashOf(secret), personId, purpose, madeBy: by.personId, createdAt: by.now, endsAt })
  // Behind the sign #: what stands there is sent to no server, and so is in no log.
  return `/password#${secret}`
}

interface LetterOf {
  readonly name: string
  readonly email: string
  readonly address: string
  readonly by: string
}

export const invitationLetter = ({ name, email, address, by }: LetterOf): Letter => ({
  to: { name, address: email },
  subject: 'You are invited to Rovant',
  text: [
    `Hello ${name},`,
    `${by} invites you to Rovant, where your team designs, plans and executes its tests.`,
    `Choose a password here; the link works once, for seven days:\n${address}`,
    `You sign in with ${email}.`,
  ].join('\n\n'),
})

export const passwordLetter = ({ name, email, address }: Omit<LetterOf, 'by'>): Letter => ({
  to: { name, address: email },
  subject: 'A new password for Rovant',
  text: [
    `Hello ${name},`,
    `choose a new password here; the link works once, for two hours, and ends all your sign-ins:\n${address}`,
    'If you did not ask for it, leave it: nothing changes then.',
  ].join('\n\n'),
})

const told =
  'If this address is of one of the people here, a link for a new password is on its way to it. It works once, for two hours.'
const noMailTold =
  'No mail leaves this installation, so nobody can be sent a link. Ask an administrator for one: it is made on the page of people.'

/** The answer says nothing of who is here, and comes before anything is sent. */
export async function askNewPassword(
  { services, address, store }: Pick<OpenContext, 'services' | 'address' | 'store'>,
  { body }: Pick<Input<typeof askContract>, 'body'>,
): Promise<Answer<typeof askContract>> {
  const { mail, baseAddress } = services
  if (!mail.isSetUp || baseAddress === null) return { told: noMailTold }
  // Whoever asks again and again, for one address or for many, waits like one who guesses.
  await services.guesses.guess({
    account: `a new password for ${body.email}`,
    address,
    look: async () => false,
    right: (is) => is,
  })
  const person = knownByEmail(services.db, body.email)
  // Nothing but the letter differs for an address that is of nobody here: not the answer, and not the work before it.
  if (!person || person.state === 'ended')
    store((context) =>
      context.secure({
        kind: 'password',
        told: 'A link for a new password was asked for, for an address of nobody who has access',
        person: null,
      }),
    )
  else {
    const link = store((context) => {
      context.secure({ kind: 'password', told: 'A link for a new password was asked for', person: person.id })
      return makeLinkFor(context, person.id, person.state === 'invited' ? 'invitation' : 'password')
    })
    void mail.send(passwordLetter({ ...person, address: `${baseAddress}${link}` })).catch(services.logError)
  }
  return { told }
}

export async function lookAtLink(
  context: OpenContext,
  { body }: Input<typeof lookContract>,
): Promise<Answer<typeof lookContract>> {
  const { link, person } = await linkIn(context, body.link)
  return { name: person.name, email: person.email, purpose: link.purpose, endsAt: link.endsAt }
}

export async function choosePassword(
  context: OpenContext,
  { body }: Input<typeof chooseContract>,
): Promise<Answer<typeof chooseContract>> {
  const { link, person } = await linkIn(context, body.link)
  await refuseCommon(body.password)
  const password = await hashPassword(body.password)
  context.store((inside) => {
    // Somebody else may have used it while the password was hashed.
    if (!liveLink(inside.tx, link.hash, inside.now)) throw endedLink()
    endLinks(inside.tx, person.id, inside.now)
    setPassword(inside.tx, person.id, password, inside.now)
    const what = link.purpose === 'invitation' ? 'took the invitation' : 'chose a new password by a link'
    inside.secure({ kind: 'password', told: `${person.name} ${what}; all sign-ins of before end`, person: person.id })
    endSignIns(inside.tx, person.id, {})
  })
  context.services.events.endOfPerson(person.id)
  if (link.purpose === 'password') tellOfChange(context, person.id, 'A new password was chosen for you by a link')
  return { ok: true }
}

const endedLink = (): Refusal =>
  new Refusal(
    'not-found',
    'This link does not work: it was used, a newer one was made, or its time is over. Ask for another one.',
  )

async function linkIn({ services, address, tx, now }: OpenContext, secret: string) {
  const link = await services.guesses.guess({
    account: `links from ${address}`,
    address,
    look: async () => liveLink(tx, hashOf(secret), now),
    right: (found) => found !== undefined,
  })
  const person = link && knownPerson(tx, link.personId)
  if (!link || !person || person.state === 'ended') throw endedLink()
  return { link, person }
}
