import type { Invited, inviteMembers as membersContract } from '#core/people/members-contract.ts'
import { linkLasts } from '#core/people/link.ts'
import type { invitePeople as peopleContract, makeLink as linkContract } from '#core/people/people-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { higherRole, type Role } from '#core/lib/rights.ts'
import { findGroup, joinGroup } from '#db/people/groups.ts'
import { giveRole, roleIn, sharesOf } from '#db/people/members.ts'
import { invitedBy } from '#db/people/links.ts'
import { addPerson, knownByEmail, knownPerson } from '#db/people/people.ts'
import type { Context } from '#server/http/context.ts'
import { roleOf } from '#server/http/permission.ts'
import type { Services } from '#server/http/services.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { newPersonId } from '#server/http/secret.ts'
import { whileTold } from './keep-groups.ts'
import { personOfHere, projectNamed } from './named.ts'
import { invitationLetter, makeLinkFor, passwordLetter } from './password-links.ts'
import { roleGiven } from './roles-given.ts'

interface Newcomer {
  readonly name: string
  readonly email: string
}
/** Somebody brought in, with the link they were given if they are new. */
interface Brought {
  readonly person: string
  readonly name: string
  readonly email: string
  readonly link: string | null
}

/** Somebody by their address: found, or made and given a link. */
function bringIn(context: Context, { name, email }: Newcomer): Brought {
  const { tx, now } = context
  const known = knownByEmail(tx, email)
  if (known?.state === 'ended')
    throw new Refusal(
      'refused',
      `${known.name} (${email}) was here and has no access any more; an administrator can let them in again. Nobody was invited.`,
    )
  const mayHaveLink = !known || (known.state === 'invited' && mayBe(context, known.id))
  const person = known?.id ?? newPersonId()
  if (!known) {
    addPerson(tx, { id: person, name, email, administrator: false, passwordHash: null }, now)
    context.secure({ kind: 'person', told: `${name} (${email}) was invited`, person })
  }
  const link = mayHaveLink ? makeLinkFor(context, person, 'invitation') : null
  return { person, name: known?.name ?? name, email, link }
}

/**
 * Whoever has the link of somebody who has not come yet can be them. So only an administrator gets a new one, or who invited them, as
 * long as they may do nothing that this lead does not lead: somebody else may have given them more since.
 */
function mayBe(context: Context, personId: string): boolean {
  const { tx, person: by } = context
  if (by.administrator) return true
  const led = sharesOf(tx, personId).every((project) => roleOf(tx, project, context) === 'lead')
  return led && invitedBy(tx, personId) === by.id && knownPerson(tx, personId)?.administrator === false
}

/** Sends the links by mail where there is any; else they are answered, to be handed over. */
async function sendOrHandOver({ services, person: by }: OpenContext, brought: readonly Brought[]): Promise<Invited[]> {
  const rows: Invited[] = []
  // A mail server that does not answer is not waited for once a letter.
  let answers = true
  for (const { link, ...each } of brought) {
    const mailed =
      link !== null &&
      answers &&
      (await mailedTo(services, (address) => invitationLetter({ ...each, address, by: by.name }), link))
    if (link !== null && !mailed) answers = false
    rows.push({
      ...each,
      was: link === null ? 'known' : 'invited',
      link: link === null || mailed ? null : withBase(services, link),
      mailed,
    })
  }
  return rows
}

/** Whether it was sent; where the mail server does not take it, the link is handed over instead, and the log says why. */
async function mailedTo(
  { mail, baseAddress, logError }: Services,
  letter: (address: string) => Parameters<typeof mail.send>[0],
  link: string,
): Promise<boolean> {
  if (!mail.isSetUp || baseAddress === null) return false
  try {
    await mail.send(letter(`${baseAddress}${link}`))
    return true
  } catch (error) {
    logError(error)
    return false
  }
}

const withBase = ({ baseAddress }: Services, link: string): string => `${baseAddress ?? ''}${link}`

/** A lead brings people into their own project. */
export async function inviteMembers(
  context: OpenContext,
  { body }: Input<typeof membersContract>,
): Promise<Answer<typeof membersContract>> {
  const brought = context.store((inside) =>
    body.people.map(({ role, ...each }) => {
      const made = bringIn(inside, each)
      raiseTo(inside, made.person, role)
      return made
    }),
  )
  return { rows: await sendOrHandOver(context, brought) }
}

/** Gives somebody a role of their own in the project asked in; who has a higher one keeps it. */
function raiseTo(context: Context, person: string, role: Role): void {
  const before = roleIn(context.tx, context.project.id, person)
  if (higherRole(before, role) === before) return
  giveRole(context.tx, context.project.id, person, role)
  roleGiven(context, { person, before, role })
}

export async function invitePeople(
  context: OpenContext,
  { body }: Input<typeof peopleContract>,
): Promise<Answer<typeof peopleContract>> {
  const brought = context.store((inside) => {
    const projects = body.projects.map(({ key, role }) => ({ role, project: projectNamed(inside, key) }))
    for (const group of body.groups)
      if (!findGroup(inside.tx, group))
        throw new Refusal('invalid', `There is no group ${group} here; nobody was invited.`, {
          fields: [{ field: 'groups', message: 'names one that is not there' }],
        })
    return body.people.map((each) => {
      const made = bringIn(inside, each)
      for (const { project, role } of projects) raiseTo(inside.within(project), made.person, role)
      for (const group of body.groups) whileTold(inside, group, () => joinGroup(inside.tx, group, made.person))
      return made
    })
  })
  return { rows: await sendOrHandOver(context, brought) }
}

/** A new link for somebody who was invited or forgot their password. */
export async function makeLink(
  context: OpenContext,
  { params }: Input<typeof linkContract>,
): Promise<Answer<typeof linkContract>> {
  const { services, now } = context
  const { person, link, purpose } = context.store((inside) => {
    const known = personOfHere(inside, params.person)
    if (known.state === 'ended')
      throw new Refusal('refused', `${known.name} has no access any more; let them in again first.`)
    const purpose = known.state === 'invited' ? ('invitation' as const) : ('password' as const)
    inside.secure({ kind: 'password', told: `A link for ${known.name} was made`, person: known.id })
    return { person: known, purpose, link: makeLinkFor(inside, known.id, purpose) }
  })
  const mailed = await mailedTo(
    services,
    (address) =>
      purpose === 'invitation'
        ? invitationLetter({ ...person, address, by: context.person.name })
        : passwordLetter({ ...person, address }),
    link,
  )
  return { link: mailed ? null : withBase(services, link), mailed, endsAt: now + linkLasts[purpose] }
}
