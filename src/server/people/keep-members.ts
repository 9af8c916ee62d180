import type {
  addAbsence as absenceContract,
  dropAbsence as dropAbsenceContract,
  handOver as handContract,
  removeMember as removeContract,
  updateHours as hoursContract,
  updateMember as updateContract,
} from '#core/people/members-contract.ts'
import { groupBy } from '#core/lib/group.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { ManyChanged } from '#core/lib/many.ts'
import { addAbsence as storeAbsence, dropAbsence as removeAbsence, hoursOf } from '#db/people/hours.ts'
import { giveRole, memberOf, roleIn, skillsIn, updateMembership } from '#db/people/members.ts'
import { findPerson, nameOf, updatePersonRow } from '#db/people/people.ts'
import { openDefectsOf, openItemIds, ownedIds } from '#db/people/work.ts'
import { saveItem } from '#db/runs/items.ts'
import { joinTeam } from '#db/runs/runs.ts'
import { changeMany } from '#server/finding/change-many.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { roleGiven } from './roles-given.ts'

export function updateMember(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx, project } = context
  const before = memberOf(tx, project.id, params.person)
  if (!before) throw notOfIt()
  if (body.role !== undefined) {
    refuseLastLead(context, params.person, body.role)
    giveRole(tx, project.id, params.person, body.role)
    const role = roleIn(tx, project.id, params.person)
    if (role !== body.role)
      throw new Refusal(
        'refused',
        `A group gives ${nameOf(tx, params.person) ?? 'them'} the role ${role ?? ''} here; an administrator changes what a group gives. Nothing was changed.`,
      )
    roleGiven(context, { person: params.person, before: before.role, role })
  }
  const skills = body.skills?.join(',')
  if (body.sharePercent !== undefined || skills !== undefined)
    updateMembership(tx, project.id, params.person, {
      ...(body.sharePercent !== undefined && { sharePercent: body.sharePercent }),
      ...(skills !== undefined && { skills }),
    })
  hoursTold(context, params.person, {
    share: [before.sharePercent, body.sharePercent],
    skills: [skillsIn(before.skills).join(', '), body.skills?.join(', ')],
  })
  return { ok: true }
}

const notOfIt = (): Refusal => new Refusal('not-found', 'That person is not one of this project’s.')

/** Without a lead nobody of the project could let anybody in; an administrator still could. */
function refuseLastLead({ tx, project, person }: Context, personId: string, role: string | null): void {
  if (personId !== person.id || role === 'lead' || person.administrator || roleIn(tx, project.id, personId) !== 'lead')
    return
  throw new Refusal(
    'refused',
    'You would take the role of lead from yourself and could not give it back. Another lead can do it for you.',
  )
}

type Told = Readonly<Record<string, readonly [before: string | number, after: string | number | undefined]>>

/** Says in the history what changed of somebody’s hours, share or skills. */
function hoursTold(context: Context, personId: string, of: Told): void {
  const changed = Object.entries(of).filter(([, [before, after]]) => after !== undefined && before !== after)
  if (changed.length === 0) return
  const name = nameOf(context.tx, personId) ?? personId
  context.change({
    kind: 'project',
    id: context.project.id,
    ref: context.project.key,
    action: 'hours changed',
    detail: Object.fromEntries(changed.map(([what, [before, after]]) => [`${name}, ${what}`, [before, after]])),
  })
}

export function removeMember(
  context: Context,
  { params }: Input<typeof removeContract>,
): Answer<typeof removeContract> {
  const { tx, project } = context
  const before = roleIn(tx, project.id, params.person)
  refuseLastLead(context, params.person, null)
  const open = openItemIds(tx, project.id, params.person).length + openDefectsOf(tx, project.id, params.person).length
  if (open > 0)
    throw new Refusal(
      'refused',
      `${nameOf(tx, params.person) ?? 'They'} still has ${open} open items and defects here. Hand them over first, then take them out.`,
    )
  giveRole(tx, project.id, params.person, null)
  const role = roleIn(tx, project.id, params.person)
  if (role !== null)
    throw new Refusal(
      'refused',
      `A group gives them the role ${role} here; an administrator changes who is in it. Nothing was changed.`,
    )
  roleGiven(context, { person: params.person, before, role })
  return { ok: true }
}

/** Everything that is somebody’s to do becomes somebody else’s; what is done stays theirs. */
export function handOver(context: Context, { params, body }: Input<typeof handContract>): Answer<typeof handContract> {
  const { tx, project } = context
  const from = params.person
  refuseSameOrViewer(context, from, body.to)
  const items = openItemIds(tx, project.id, from)
  for (const { id } of items) saveItem(tx, id, { assigneeId: body.to })
  const perRun = [...groupBy(items, ({ run }) => run)].map(([run, of]) => ({
    ...joinTeam(tx, run, body.to),
    ids: of.map(({ id }) => id),
  }))
  for (const { id, number, ids } of perRun)
    context.change({
      kind: 'run',
      id,
      ref: keyOf('run', number),
      action: 'assigned',
      detail: { items: [null, ids.length] },
    })
  const set = { ownerId: body.to }
  const moved = (of: ManyChanged<unknown>): number[] => of.undo.map(({ id }) => id)
  const requirements = moved(
    changeMany(context, { kind: 'requirement', ids: ownedIds(tx, 'requirement', project.id, from), set }),
  )
  const cases = moved(changeMany(context, { kind: 'case', ids: ownedIds(tx, 'case', project.id, from), set }))
  const defects = moved(
    changeMany(context, { kind: 'defect', ids: openDefectsOf(tx, project.id, from).map(({ id }) => id), set }),
  )
  const total = items.length + requirements.length + cases.length + defects.length
  if (total > 0)
    context.change({
      kind: 'project',
      id: project.id,
      ref: project.key,
      action: 'work handed over',
      detail: { [`${total} from`]: [nameOf(tx, from), nameOf(tx, body.to)] },
    })
  const runs = perRun.map(({ number, ids }) => ({ run: keyOf('run', number), ids }))
  return { moved: total, items: runs, requirements, cases, defects }
}

function refuseSameOrViewer({ tx, project }: Context, from: string, to: string): void {
  if (from === to) throw new Refusal('invalid', 'Choose somebody else to take it over; nothing was changed.')
  const takes = findPerson(tx, to)
  if (!takes || roleIn(tx, project.id, to) === 'viewer')
    throw new Refusal(
      'invalid',
      `${takes?.name ?? 'That person'} may not execute here, so cannot take it over; nothing was changed.`,
      { fields: [{ field: 'to', message: 'may not execute here' }] },
    )
}

/** Hours and absences are a person’s own to say, and a lead’s. */
function refuseStranger({ person, role }: Context, of: string): void {
  if (person.id !== of && role !== 'lead')
    throw new Refusal('not-allowed', 'Hours and absences are changed by the person themselves, or by a lead.')
}

export function updateHours(
  context: Context,
  { params, body }: Input<typeof hoursContract>,
): Answer<typeof hoursContract> {
  refuseStranger(context, params.person)
  const before = hoursOf(context.tx, params.person)
  if (!before) throw notOfIt()
  const { workingMinutes = before.workingMinutes, freePercent = before.freePercent } = body
  updatePersonRow(context.tx, params.person, { workingMinutes, freePercent })
  hoursTold(context, params.person, {
    'minutes a day': [before.workingMinutes, workingMinutes],
    'free for testing': [before.freePercent, freePercent],
  })
  return { ok: true }
}

export function addAbsence(
  context: Context,
  { params, body }: Input<typeof absenceContract>,
): Answer<typeof absenceContract> {
  refuseStranger(context, params.person)
  const id = storeAbsence(context.tx, { personId: params.person, ...body })
  hoursTold(context, params.person, { away: ['', `${body.startOn} to ${body.endOn}`] })
  return { id }
}

export function dropAbsence(
  context: Context,
  { params }: Input<typeof dropAbsenceContract>,
): Answer<typeof dropAbsenceContract> {
  refuseStranger(context, params.person)
  if (!removeAbsence(context.tx, params.person, params.id))
    throw new Refusal('not-found', 'That absence is not there any more.')
  hoursTold(context, params.person, { away: ['an absence', 'taken back'] })
  return { ok: true }
}
