import { sumOf } from '#core/lib/figures.ts'
import { findsAny, int, maybe, oneOf, rowOf, rowsOf, text } from '#db/rows.ts'
import { type Capacity, minutesOn, minutesPerDay } from '#core/people/capacity.ts'
import { higherRole, type Role, roles } from '#core/lib/rights.ts'
import { and, eq, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { absencesOf } from './hours.ts'
import { membership } from './tables.ts'

interface MemberOf {
  readonly role: Role
  readonly sharePercent?: number
  readonly skills?: readonly string[]
}

/** Gives somebody a role of their own in a project. */
export function addMember(tx: Tx, projectId: number, personId: string, of: MemberOf): void {
  tx.insert(membership)
    .values({
      projectId,
      personId,
      role: of.role,
      givenRole: of.role,
      sharePercent: of.sharePercent ?? shareLeft(tx, personId),
      skills: (of.skills ?? []).join(','),
    })
    .run()
}

/** The part of their time, in per cent, that no project has yet. */
const shareLeft = (tx: Tx, personId: string): number =>
  Math.max(0, 100 - sharesOf(tx, personId).reduce((sum, { sharePercent }) => sum + sharePercent, 0))

export const roleIn = (tx: Tx, projectId: number, personId: string): Role | null =>
  memberOf(tx, projectId, personId)?.role ?? null

export const memberOf = (tx: Tx, projectId: number, personId: string): typeof membership.$inferSelect | undefined =>
  tx
    .select()
    .from(membership)
    .where(and(eq(membership.projectId, projectId), eq(membership.personId, personId)))
    .get()

export const membersOf = (tx: Tx, projectId: number): { id: string; name: string; role: Role }[] =>
  rowsOf(
    tx,
    { id: text, name: text, role: oneOf(roles) },
    sql`
      select p.id, p.name, m.role
      from membership m
      join person p on p.id = m.person_id
      where m.project_id = ${projectId} and p.ended_at is null
      order by p.name`,
  )

export const leadsOf = (tx: Tx, projectId: number): string[] =>
  membersOf(tx, projectId)
    .filter(({ role }) => role === 'lead')
    .map(({ id }) => id)

/** The role given to somebody themselves; `null` leaves them what their groups give. Nothing is said to their groups. */
export function giveRole(tx: Tx, projectId: number, personId: string, role: Role | null): void {
  const before = memberOf(tx, projectId, personId)
  if (before)
    tx.update(membership)
      .set({ givenRole: role })
      .where(and(eq(membership.projectId, projectId), eq(membership.personId, personId)))
      .run()
  else if (role !== null) addMember(tx, projectId, personId, { role })
  settleRole(tx, projectId, personId)
}

/** Makes a membership what the role given to the person and those of their groups say; without any they are out. */
export function settleRole(tx: Tx, projectId: number, personId: string): void {
  const before = memberOf(tx, projectId, personId)
  const role = groupRoles(tx, projectId, personId).reduce<Role | null>(higherRole, before?.givenRole ?? null)
  const own = and(eq(membership.projectId, projectId), eq(membership.personId, personId))
  if (role === null) tx.delete(membership).where(own).run()
  else if (before) tx.update(membership).set({ role }).where(own).run()
  else
    tx.insert(membership)
      .values({ projectId, personId, role, sharePercent: shareLeft(tx, personId) })
      .run()
}

const groupRoles = (tx: Tx, projectId: number, personId: string): Role[] =>
  rowsOf(
    tx,
    { role: oneOf(roles) },
    sql`
      select r.role
      from group_member m
      join group_role r on r.group_id = m.group_id
      where m.person_id = ${personId} and r.project_id = ${projectId}`,
  ).map(({ role }) => role)

export const everyRole = (tx: Tx): { projectId: number; personId: string; role: Role }[] =>
  tx
    .select({ projectId: membership.projectId, personId: membership.personId, role: membership.role })
    .from(membership)
    .all()

export const groupsOf = (tx: Tx, personId: string): string[] =>
  rowsOf(
    tx,
    { name: text },
    sql`
      select g.name
      from group_member m
      join person_group g on g.id = m.group_id
      where m.person_id = ${personId}
      order by g.name`,
  ).map(({ name }) => name)

/** Whether two people are of one project. */
export const sharesProject = (tx: Tx, one: string, other: string): boolean =>
  findsAny(
    tx,
    sql`
      select 1
      from membership a
      join membership b on b.project_id = a.project_id
      where a.person_id = ${one} and b.person_id = ${other}`,
  )

export const updateMembership = (
  tx: Tx,
  projectId: number,
  personId: string,
  set: Partial<Pick<typeof membership.$inferInsert, 'sharePercent' | 'skills'>>,
): void =>
  void tx
    .update(membership)
    .set(set)
    .where(and(eq(membership.projectId, projectId), eq(membership.personId, personId)))
    .run()

export const capacityOf = (
  tx: Tx,
  projectId: number,
  personId: string,
): (Capacity & { workingDays: string }) | undefined =>
  rowOf(
    tx,
    { workingMinutes: int, freePercent: int, sharePercent: int, workingDays: text },
    sql`
      select p.working_minutes as workingMinutes, p.free_percent as freePercent, m.share_percent as sharePercent,
        pr.working_days as workingDays
      from membership m
      join person p on p.id = m.person_id
      join project pr on pr.id = m.project_id
      where m.project_id = ${projectId} and m.person_id = ${personId}`,
  )

/** Minutes somebody can give a project on a plain date; none when they are not of it. */
export const minutesGiven = (tx: Tx, projectId: number, personId: string, day: string): number =>
  minutesGivenOn(tx, projectId, personId, [day])

/** The same over several days, the first of them first. */
export function minutesGivenOn(tx: Tx, projectId: number, personId: string, days: readonly string[]): number {
  const capacity = capacityOf(tx, projectId, personId)
  const [first] = days
  if (!capacity || first === undefined) return 0
  const absences = absencesOf(tx, personId, first)
  return sumOf(days, (day) => minutesOn(day, { ...capacity, absences }))
}

interface Staff {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly role: Role
  readonly skills: string[]
  readonly sharePercent: number
  readonly minutesPerDay: number
  /** They may not come in any more. */
  readonly ended: boolean
}

/** Everybody of a project with their role, skills, and minutes of a day on which they are not away. */
export const staffOf = (tx: Tx, projectId: number): Staff[] =>
  rowsOf(
    tx,
    {
      id: text,
      name: text,
      email: text,
      role: oneOf(roles),
      skills: text,
      workingMinutes: int,
      freePercent: int,
      sharePercent: int,
      endedAt: maybe(int),
    },
    sql`
      select p.id, p.name, p.email, m.role, m.skills, p.working_minutes as workingMinutes,
        p.free_percent as freePercent, m.share_percent as sharePercent, p.ended_at as endedAt
      from membership m
      join person p on p.id = m.person_id
      where m.project_id = ${projectId}
      order by p.name`,
  ).map(({ workingMinutes, freePercent, endedAt, ...each }) => ({
    ...each,
    skills: skillsIn(each.skills),
    minutesPerDay: minutesPerDay({ workingMinutes, freePercent, sharePercent: each.sharePercent }),
    ended: endedAt !== null,
  }))

export const skillsIn = (words: string): string[] => (words === '' ? [] : words.split(','))

/** The projects a person serves in, with the share of their time each has. */
export const sharesOf = (tx: Tx, personId: string): { id: number; key: string; name: string; sharePercent: number }[] =>
  rowsOf(
    tx,
    { id: int, key: text, name: text, sharePercent: int },
    sql`
      select pr.id, pr.key, pr.name, m.share_percent as sharePercent
      from membership m
      join project pr on pr.id = m.project_id
      where m.person_id = ${personId}
      order by pr.key`,
  )

/** Every skill anybody of a project has, in small letters, each once. */
export const skillsOf = (tx: Tx, projectId: number): string[] => [
  ...new Set(
    rowsOf(tx, { skills: text }, sql`select skills from membership where project_id = ${projectId}`)
      .flatMap(({ skills }) => skills.split(','))
      .map((skill) => skill.trim().toLowerCase())
      .filter((skill) => skill !== ''),
  ),
]
