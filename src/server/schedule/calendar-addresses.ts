import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type {
  createCalendarAddress as createContract,
  listCalendarAddresses as listContract,
  revokeCalendarAddress as revokeContract,
} from '#core/schedule/calendar-contract.ts'
import { mostAddresses } from '#core/schedule/calendar-contract.ts'
import { addAddress, addressesOf, revokeAddress } from '#db/schedule/addresses.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { hashOf, newSecret } from '#server/http/secret.ts'
import { runNamed } from './team-days.ts'

export const listCalendarAddresses = ({ tx, project, person }: Context): Answer<typeof listContract> => ({
  rows: addressesOf(tx, project.id, person.id),
})

export function createCalendarAddress(
  context: Context,
  { body }: Input<typeof createContract>,
): Answer<typeof createContract> {
  const { tx, project, person, limit, now } = context
  // An address outlives the token it would be made with.
  if (limit !== null)
    throw new Refusal('refused', 'A calendar address is made by whoever is signed in, not with a token.')
  if (addressesOf(tx, project.id, person.id).length >= mostAddresses)
    throw new Refusal('refused', `You have ${mostAddresses} calendar addresses here already; revoke one first.`)
  const run = body.run === null ? null : runNamed(tx, project, body.run)
  const secret = `rvc_${newSecret()}`
  addAddress(tx, {
    projectId: project.id,
    personId: person.id,
    runId: run?.id ?? null,
    hash: hashOf(secret),
    createdAt: now,
  })
  const of = run ? keyOf('run', run.number) : 'their own days'
  context.secure({ kind: 'token', told: `A calendar address for ${of} in ${project.key} was made` })
  // Behind the question mark, where nothing that keeps a record of requests writes it down.
  return { path: `/api/v1/calendar.ics?of=${secret}` }
}

export function revokeCalendarAddress(
  context: Context,
  { params }: Input<typeof revokeContract>,
): Answer<typeof revokeContract> {
  const { tx, person, now, project } = context
  if (!revokeAddress(tx, { id: params.id, personId: person.id, now }))
    throw new Refusal('not-found', 'You have no such calendar address any more.')
  context.secure({ kind: 'token', told: `A calendar address in ${project.key} was revoked` })
  return { ok: true }
}
