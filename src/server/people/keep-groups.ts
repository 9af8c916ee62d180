import type {
  createGroup as createContract,
  deleteGroup as deleteContract,
  listGroups as listContract,
  updateGroup as updateContract,
} from '#core/people/people-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Role } from '#core/lib/rights.ts'
import {
  addGroup,
  allGroups,
  dropGroup,
  findGroup,
  findGroupByName,
  groupReach,
  renameGroup,
  setGroup,
} from '#db/people/groups.ts'
import { everyRole, roleIn } from '#db/people/members.ts'
import { findProjectById } from '#db/projects/projects.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { personOfHere, projectNamed } from './named.ts'
import { roleGiven } from './roles-given.ts'

export const listGroups = ({ tx }: Context, _: Input<typeof listContract>): Answer<typeof listContract> => ({
  rows: allGroups(tx),
})

export function createGroup(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  refuseTwin(context, body.name)
  context.secure({ kind: 'role', told: `The group ${body.name} was made`, person: null })
  return { id: addGroup(context.tx, body.name) }
}

function refuseTwin({ tx }: Context, name: string, own?: number): void {
  const twin = findGroupByName(tx, name)
  if (twin && twin.id !== own)
    throw new Refusal('refused', `There is a group called ${name} already; nothing was changed.`, {
      fields: [{ field: 'name', message: 'is taken' }],
    })
}

function groupOf({ tx }: Context, id: number) {
  const group = findGroup(tx, id)
  if (!group) throw new Refusal('not-found', 'There is no such group here; it may have been taken away.')
  return group
}

export function updateGroup(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { id, name } = groupOf(context, params.group)
  if (body.name !== undefined) {
    refuseTwin(context, body.name, id)
    renameGroup(context.tx, id, body.name)
    if (body.name !== name)
      context.secure({ kind: 'role', told: `The group ${name} is called ${body.name} now`, person: null })
  }
  for (const person of body.people ?? []) personOfHere(context, person)
  const roles = body.roles?.map(({ project, role }) => ({ role, projectId: projectNamed(context, project).id }))
  if (body.people || roles)
    whileTold(context, id, () =>
      setGroup(context.tx, id, { ...(body.people && { people: body.people }), ...(roles && { roles }) }),
    )
  return { ok: true }
}

export function deleteGroup(context: Context, { params }: Input<typeof deleteContract>): Answer<typeof deleteContract> {
  const { id, name } = groupOf(context, params.group)
  whileTold(context, id, () => dropGroup(context.tx, id))
  context.secure({ kind: 'role', told: `The group ${name} was taken away`, person: null })
  return { ok: true }
}

/** Changes a group, and says of everybody it concerns what role they got, changed or lost by it. */
export function whileTold(context: Context, group: number, change: () => void): void {
  const { tx } = context
  const before = groupReach(tx, group)
  const rolesBefore = new Map(allIn(tx).map(({ at, role }) => [at, role]))
  change()
  for (const { projectId, personId } of [...before, ...groupReach(tx, group)]) {
    const project = findProjectById(tx, projectId)
    const at = `${projectId} ${personId}`
    const role = roleIn(tx, projectId, personId)
    if (project) roleGiven(context.within(project), { person: personId, before: rolesBefore.get(at) ?? null, role })
    rolesBefore.set(at, role)
  }
}

const allIn = (tx: Context['tx']): { at: string; role: Role | null }[] =>
  everyRole(tx).map(({ projectId, personId, role }) => ({ at: `${projectId} ${personId}`, role }))
