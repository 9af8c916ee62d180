import { and, desc, eq, lt, sql } from 'drizzle-orm'
import type { HistoryEntry, Me } from '#core/people/contract.ts'
import type { Changes } from '#core/people/history.ts'
import type { Tx } from '#db/open.ts'
import { project } from '#db/projects/tables.ts'
import { account, apiToken, change, idempotencyKey, membership, person } from './tables.ts'

export interface PersonRow {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly administrator: boolean
}

export const findPerson = (tx: Tx, id: string): PersonRow | undefined =>
  tx
    .select({ id: person.id, name: person.name, email: person.email, administrator: person.administrator })
    .from(person)
    .where(eq(person.id, id))
    .get()

export const findPersonByEmail = (tx: Tx, email: string): PersonRow | undefined =>
  tx
    .select({ id: person.id, name: person.name, email: person.email, administrator: person.administrator })
    .from(person)
    .where(eq(person.email, email))
    .get()

export const findPersonByName = (tx: Tx, name: string): PersonRow | undefined =>
  tx
    .select({ id: person.id, name: person.name, email: person.email, administrator: person.administrator })
    .from(person)
    .where(sql`${person.name} = ${name} or ${person.email} = ${name.toLowerCase()}`)
    .get()

export const countPeople = (tx: Tx): number => tx.get<{ n: number }>(sql`select count(*) as n from person`)?.n ?? 0

export const allPeople = (tx: Tx): { name: string; email: string; roles: string }[] =>
  tx.all(
    sql`select p.name, p.email, case when p.administrator then 'administrator' else coalesce((select group_concat(role || ' in ' || pr.key, ', ') from membership m join project pr on pr.id = m.project_id where m.person_id = p.id), 'no project') end as roles from person p order by p.administrator, p.name`,
  )

export interface NewPerson {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly administrator: boolean
  readonly passwordHash: string
}

/** A person with a password, in the shape the sign-in library reads. */
export function addPerson(tx: Tx, of: NewPerson, now: number): void {
  const at = new Date(now)
  tx.insert(person)
    .values({
      id: of.id,
      name: of.name,
      email: of.email,
      administrator: of.administrator,
      createdAt: at,
      updatedAt: at,
    })
    .run()
  tx.insert(account)
    .values({
      id: `a-${of.id}`,
      accountId: of.id,
      providerId: 'credential',
      userId: of.id,
      password: of.passwordHash,
      createdAt: at,
      updatedAt: at,
    })
    .run()
}

export function addMember(
  tx: Tx,
  projectId: number,
  personId: string,
  of: { role: 'viewer' | 'tester' | 'lead'; minutesPerDay?: number; skills?: readonly string[] },
): void {
  tx.insert(membership)
    .values({
      projectId,
      personId,
      role: of.role,
      minutesPerDay: of.minutesPerDay ?? 300,
      skills: (of.skills ?? []).join(','),
    })
    .run()
}

export const projectsOf = (tx: Tx, who: PersonRow): Me['projects'] =>
  tx
    .select({ key: project.key, name: project.name, product: project.product, role: membership.role })
    .from(membership)
    .innerJoin(project, eq(project.id, membership.projectId))
    .where(eq(membership.personId, who.id))
    .orderBy(project.id)
    .all()

export const roleIn = (tx: Tx, projectId: number, personId: string): 'viewer' | 'tester' | 'lead' | null =>
  tx
    .select({ role: membership.role })
    .from(membership)
    .where(and(eq(membership.projectId, projectId), eq(membership.personId, personId)))
    .get()?.role ?? null

export const membersOf = (
  tx: Tx,
  projectId: number,
): { id: string; name: string; role: 'viewer' | 'tester' | 'lead' }[] =>
  tx.all(
    sql`select p.id, p.name, m.role from membership m join person p on p.id = m.person_id where m.project_id = ${projectId} order by p.name`,
  )

export const tokenOwner = (tx: Tx, hash: string): { personId: string; projectId: number | null } | undefined =>
  tx
    .select({ personId: apiToken.personId, projectId: apiToken.projectId })
    .from(apiToken)
    .where(and(eq(apiToken.hash, hash), sql`${apiToken.revokedAt} is null`))
    .get()

export const addToken = (
  tx: Tx,
  of: { personId: string; projectId: number | null; name: string; hash: string; createdAt: number },
): void => void tx.insert(apiToken).values(of).run()

export const revokeToken = (tx: Tx, personId: string, name: string, now: number): number =>
  tx
    .update(apiToken)
    .set({ revokedAt: now })
    .where(and(eq(apiToken.personId, personId), eq(apiToken.name, name), sql`${apiToken.revokedAt} is null`))
    .run().changes

export interface NewChange {
  readonly projectId: number
  readonly at: number
  readonly personId: string | null
  readonly kind: string
  readonly ownerId: number
  readonly ref: string
  readonly action: string
  readonly detail: Changes | null
}

export function addChanges(tx: Tx, all: readonly NewChange[]): void {
  const rows = all.map((of) => [
    of.projectId,
    of.at,
    of.personId,
    of.kind,
    of.ownerId,
    of.ref,
    of.action,
    of.detail === null ? null : JSON.stringify(of.detail),
  ])
  tx.run(
    sql`insert into change (project_id, at, person_id, kind, owner_id, ref, action, detail) select j.value ->> 0, j.value ->> 1, j.value ->> 2, j.value ->> 3, j.value ->> 4, j.value ->> 5, j.value ->> 6, j.value ->> 7 from json_each(${JSON.stringify(rows)}) j`,
  )
}
export const addChange = (tx: Tx, of: NewChange): number =>
  tx
    .insert(change)
    .values({ ...of, detail: of.detail && JSON.stringify(of.detail) })
    .returning({ id: change.id })
    .get().id

export interface ChangeEvent {
  readonly id: number
  readonly kind: string
  readonly ref: string
  readonly action: string
  readonly at: number
}
export const changesSince = (tx: Tx, projectId: number, after: number, limit: number): ChangeEvent[] =>
  tx.all(
    sql`select id, kind, ref, action, at from change where project_id = ${projectId} and id > ${after} order by id limit ${limit}`,
  )

export const lastChange = (tx: Tx, projectId: number): number =>
  tx.get<{ id: number | null }>(sql`select max(id) as id from change where project_id = ${projectId}`)?.id ?? 0

export function listChanges(
  tx: Tx,
  projectId: number,
  of: { ref?: string | undefined; before?: number | undefined; limit: number },
): HistoryEntry[] {
  const rows = tx
    .select({
      id: change.id,
      at: change.at,
      person: person.name,
      kind: change.kind,
      ref: change.ref,
      action: change.action,
      detail: change.detail,
    })
    .from(change)
    .leftJoin(person, eq(person.id, change.personId))
    .where(
      and(
        eq(change.projectId, projectId),
        of.ref ? eq(change.ref, of.ref) : undefined,
        of.before ? lt(change.id, of.before) : undefined,
      ),
    )
    .orderBy(desc(change.id))
    .limit(of.limit)
    .all()
  return rows.map((row) => ({ ...row, detail: row.detail === null ? null : JSON.parse(row.detail) }))
}

export const findIdempotent = (
  tx: Tx,
  personId: string,
  key: string,
): { request: string; bodyHash: string; status: number; answer: string } | undefined =>
  tx
    .select()
    .from(idempotencyKey)
    .where(and(eq(idempotencyKey.personId, personId), eq(idempotencyKey.key, key)))
    .get()

export const addIdempotent = (tx: Tx, of: typeof idempotencyKey.$inferInsert): void =>
  void tx.insert(idempotencyKey).values(of).run()

export const forgetIdempotent = (tx: Tx, before: number): void =>
  void tx.delete(idempotencyKey).where(lt(idempotencyKey.at, before)).run()
