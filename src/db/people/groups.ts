import { asc, eq, sql } from 'drizzle-orm'
import { groupBy } from '#core/lib/group.ts'
import { type Role, roles } from '#core/lib/rights.ts'
import type { Group } from '#core/people/people-contract.ts'
import type { Tx } from '#db/open.ts'
import { int, oneOf, rowsOf, text } from '#db/rows.ts'
import { settleRole } from './members.ts'
import { groupMember, groupRole, personGroup } from './tables.ts'

export function allGroups(tx: Tx): Group[] {
  const people = groupBy(
    rowsOf(
      tx,
      { group: int, id: text, name: text },
      sql`
        select m.group_id as "group", p.id, p.name
        from group_member m
        join person p on p.id = m.person_id
        order by p.name`,
    ),
    ({ group }) => group,
  )
  const given = groupBy(
    rowsOf(
      tx,
      { group: int, project: text, role: oneOf(roles) },
      sql`
        select r.group_id as "group", pr.key as project, r.role
        from group_role r
        join project pr on pr.id = r.project_id
        order by pr.key`,
    ),
    ({ group }) => group,
  )
  return tx
    .select()
    .from(personGroup)
    .orderBy(asc(personGroup.name))
    .all()
    .map(({ id, name }) => ({
      id,
      name,
      people: (people.get(id) ?? []).map((each) => ({ id: each.id, name: each.name })),
      roles: (given.get(id) ?? []).map(({ project, role }) => ({ project, role })),
    }))
}

export const findGroup = (tx: Tx, id: number): { id: number; name: string } | undefined =>
  tx.select().from(personGroup).where(eq(personGroup.id, id)).get()

export const findGroupByName = (tx: Tx, name: string): { id: number; name: string } | undefined =>
  tx.select().from(personGroup).where(eq(personGroup.name, name)).get()

export const addGroup = (tx: Tx, name: string): number =>
  tx.insert(personGroup).values({ name }).returning({ id: personGroup.id }).get().id

export const renameGroup = (tx: Tx, id: number, name: string): void =>
  void tx.update(personGroup).set({ name }).where(eq(personGroup.id, id)).run()

interface GroupSet {
  readonly people?: readonly string[]
  readonly roles?: readonly { readonly projectId: number; readonly role: Role }[]
}

/** Sets who is of a group and what it gives, and makes the roles of all who were or are concerned what follows. */
export function setGroup(tx: Tx, id: number, of: GroupSet): void {
  const before = partsOf(tx, id)
  if (of.people) {
    tx.delete(groupMember).where(eq(groupMember.groupId, id)).run()
    for (const personId of new Set(of.people)) tx.insert(groupMember).values({ groupId: id, personId }).run()
  }
  if (of.roles) {
    tx.delete(groupRole).where(eq(groupRole.groupId, id)).run()
    for (const { projectId, role } of of.roles) tx.insert(groupRole).values({ groupId: id, projectId, role }).run()
  }
  const after = partsOf(tx, id)
  for (const projectId of new Set([...before.projects, ...after.projects]))
    for (const personId of new Set([...before.people, ...after.people])) settleRole(tx, projectId, personId)
}

/** Puts somebody into a group, with the roles it gives. */
export function joinGroup(tx: Tx, id: number, personId: string): void {
  tx.insert(groupMember).values({ groupId: id, personId }).onConflictDoNothing().run()
  for (const projectId of partsOf(tx, id).projects) settleRole(tx, projectId, personId)
}

export function dropGroup(tx: Tx, id: number): void {
  setGroup(tx, id, { people: [], roles: [] })
  tx.delete(personGroup).where(eq(personGroup.id, id)).run()
}

const partsOf = (tx: Tx, groupId: number): { people: string[]; projects: number[] } => ({
  people: tx
    .select({ id: groupMember.personId })
    .from(groupMember)
    .where(eq(groupMember.groupId, groupId))
    .all()
    .map(({ id }) => id),
  projects: tx
    .select({ id: groupRole.projectId })
    .from(groupRole)
    .where(eq(groupRole.groupId, groupId))
    .all()
    .map(({ id }) => id),
})

/** Everybody a group gives something, with the project it gives it in. */
export function groupReach(tx: Tx, groupId: number): { projectId: number; personId: string }[] {
  const { people, projects } = partsOf(tx, groupId)
  return projects.flatMap((projectId) => people.map((personId) => ({ projectId, personId })))
}
