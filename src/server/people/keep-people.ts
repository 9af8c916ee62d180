import type {
  dropFactorOf as dropFactorContract,
  endSignInsOf as endContract,
  listPeople as listContract,
  setRole as roleContract,
  updatePerson as updateContract,
} from '#core/people/people-contract.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { endLinks } from '#db/people/links.ts'
import { giveRole, roleIn } from '#db/people/members.ts'
import { dropFactor, knownByEmail, otherAdministrators, peoplePage, updatePersonRow } from '#db/people/people.ts'
import { endSignIns } from '#db/people/sign-ins.ts'
import { revokeTokens } from '#db/people/tokens.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { personOfHere, projectNamed } from './named.ts'
import { roleGiven } from './roles-given.ts'
import { tellOfChange } from './tell-change.ts'

export function listPeople({ tx }: Context, { query }: Input<typeof listContract>): Answer<typeof listContract> {
  const offset = query.cursor ?? 0
  const { rows, total } = peoplePage(tx, { text: query.text, state: query.state, offset, limit: query.limit })
  return { rows, total, next: offset + rows.length < total ? offset + rows.length : null }
}

export async function updatePerson(
  context: OpenContext,
  { params, body }: Input<typeof updateContract>,
): Promise<Answer<typeof updateContract>> {
  const putOut = context.store((inside) => {
    const before = personOfHere(inside, params.person)
    const { ended, ...edit } = definedOf(body)
    const ends = ended === true && before.state !== 'ended'
    refuseLastAdministrator(inside, before, ends || edit.administrator === false)
    refuseTakenAddress(inside, before.id, edit.email)
    updatePersonRow(inside.tx, before.id, {
      ...edit,
      ...(ended !== undefined && { endedAt: endOf(before, ended, inside.now) }),
    })
    for (const told of changesTold(before, body)) inside.secure({ kind: 'person', told, person: before.id })
    if (ends) endAccess(inside, before.id)
    return ends
  })
  if (putOut) context.services.events.endOfPerson(params.person)
  return { ok: true }
}

type Known = ReturnType<typeof personOfHere>
const endOf = (before: Known, ended: boolean, now: number): number | null => (ended ? (before.endedAt ?? now) : null)

/** Sign-ins and links end, and tokens are revoked for good; roles stay, so that who comes back finds them. */
function endAccess({ tx, now }: Context, personId: string): void {
  endSignIns(tx, personId, {})
  endLinks(tx, personId, now)
  revokeTokens(tx, personId, now)
}

function refuseLastAdministrator({ tx }: Context, { id, name, administrator }: Known, loses: boolean): void {
  if (loses && administrator && otherAdministrators(tx, id) === 0)
    throw new Refusal(
      'refused',
      `${name} is the only administrator; without one nobody could let people in. Make somebody else an administrator first.`,
    )
}

function refuseTakenAddress({ tx }: Context, id: string, email: string | undefined): void {
  const other = email === undefined ? undefined : knownByEmail(tx, email)
  if (other && other.id !== id)
    throw new Refusal('refused', `${other.name} has this address already; nothing was changed.`, {
      fields: [{ field: 'email', message: 'is taken' }],
    })
}

function changesTold(
  before: Known,
  { name, email, administrator, ended }: Input<typeof updateContract>['body'],
): string[] {
  return [
    ...(name !== undefined && name !== before.name ? [`${before.name} is called ${name} now`] : []),
    ...(email !== undefined && email !== before.email
      ? [`${before.name} has the address ${email}, was ${before.email}`]
      : []),
    ...(administrator !== undefined && administrator !== before.administrator
      ? [`${before.name} is ${administrator ? 'an administrator now' : 'no administrator any more'}`]
      : []),
    ...(ended === true && before.state !== 'ended' ? [`The access of ${before.name} was ended`] : []),
    ...(ended === false && before.state === 'ended' ? [`${before.name} may come in again`] : []),
  ]
}

export async function endSignInsOf(
  context: OpenContext,
  { params }: Input<typeof endContract>,
): Promise<Answer<typeof endContract>> {
  const ended = context.store((inside) => {
    const { id, name } = personOfHere(inside, params.person)
    inside.secure({ kind: 'sign-in ended', told: `All sign-ins of ${name} were ended`, person: id })
    return endSignIns(inside.tx, id, {}).length
  })
  context.services.events.endOfPerson(params.person)
  return { ended }
}

export async function dropFactorOf(
  context: OpenContext,
  { params }: Input<typeof dropFactorContract>,
): Promise<Answer<typeof dropFactorContract>> {
  context.store((inside) => {
    const { id, name } = personOfHere(inside, params.person)
    dropFactor(inside.tx, id)
    inside.secure({ kind: 'second factor', told: `The second factor of ${name} was taken away`, person: id })
  })
  tellOfChange(context, params.person, `Your second factor was taken away by ${context.person.name}`)
  return { ok: true }
}

export function setRole(context: Context, { params, body }: Input<typeof roleContract>): Answer<typeof roleContract> {
  const { id } = personOfHere(context, params.person)
  const inside = context.within(projectNamed(context, params.key))
  const before = roleIn(inside.tx, inside.project.id, id)
  giveRole(inside.tx, inside.project.id, id, body.role)
  roleGiven(inside, { person: id, before, role: roleIn(inside.tx, inside.project.id, id) })
  return { ok: true }
}
