import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { Project } from '#core/projects/contract.ts'
import { initials } from '#core/people/history.ts'
import { groupBy } from '#core/lib/group.ts'
import type { Tx } from '#db/open.ts'
import { membership, person } from '#db/people/tables.ts'
import { build, counter, environment, environmentValue, iteration, project, release, savedView } from './tables.ts'

export type ProjectRow = typeof project.$inferSelect
export const findProject = (tx: Tx, key: string): ProjectRow | undefined =>
  tx.select().from(project).where(eq(project.key, key)).get()
export const findProjectById = (tx: Tx, id: number): ProjectRow | undefined =>
  tx.select().from(project).where(eq(project.id, id)).get()

export const allProjects = (tx: Tx): { key: string; name: string; product: string }[] =>
  tx.select({ key: project.key, name: project.name, product: project.product }).from(project).orderBy(project.id).all()

export function addProject(tx: Tx, of: Omit<typeof project.$inferInsert, 'id'>): number {
  const { id } = tx.insert(project).values(of).returning({ id: project.id }).get()
  tx.insert(environment).values({ projectId: id, position: 0, name: 'any', isAny: true }).run()
  return id
}

export const saveProject = (tx: Tx, id: number, edit: Partial<ProjectRow>): void =>
  void tx.update(project).set(edit).where(eq(project.id, id)).run()

export const bumpStructure = (tx: Tx, projectId: number): void =>
  void tx.run(sql`update project set structure_version = structure_version + 1 where id = ${projectId}`)

/** Takes `count` numbers of a kind; numbers are never used again, whatever becomes of their objects. */
export function takeNumbers(tx: Tx, projectId: number, prefix: string, count = 1): number {
  const row = tx
    .insert(counter)
    .values({ projectId, prefix, next: 1 + count })
    .onConflictDoUpdate({ target: [counter.projectId, counter.prefix], set: { next: sql`${counter.next} + ${count}` } })
    .returning({ next: counter.next })
    .get()
  return row.next - count
}

export function projectDetail(tx: Tx, row: ProjectRow, role: Project['role']): Project {
  const values = groupBy(
    tx
      .select({ id: environmentValue.environmentId, factor: environmentValue.factor, value: environmentValue.value })
      .from(environmentValue)
      .innerJoin(environment, eq(environment.id, environmentValue.environmentId))
      .where(eq(environment.projectId, row.id))
      .all(),
    ({ id }) => id,
  )
  const people = tx
    .select({
      id: person.id,
      name: person.name,
      role: membership.role,
      skills: membership.skills,
      minutesPerDay: membership.minutesPerDay,
    })
    .from(membership)
    .innerJoin(person, eq(person.id, membership.personId))
    .where(eq(membership.projectId, row.id))
    .orderBy(person.name)
    .all()
  return {
    id: row.id,
    key: row.key,
    name: row.name,
    product: row.product,
    timeZone: row.timeZone,
    freshnessDays: row.freshnessDays,
    approvalRequired: row.approvalRequired,
    reasonAsked: row.reasonAsked,
    role,
    releases: tx
      .select({
        id: release.id,
        name: release.name,
        state: release.state,
        startOn: release.startOn,
        dueOn: release.dueOn,
        position: release.position,
      })
      .from(release)
      .where(and(eq(release.projectId, row.id), isNull(release.deletedAt)))
      .orderBy(asc(release.position))
      .all(),
    iterations: tx
      .select({
        id: iteration.id,
        release: iteration.releaseId,
        name: iteration.name,
        startOn: iteration.startOn,
        dueOn: iteration.dueOn,
        position: iteration.position,
      })
      .from(iteration)
      .innerJoin(release, eq(release.id, iteration.releaseId))
      .where(and(eq(release.projectId, row.id), isNull(iteration.deletedAt)))
      .orderBy(asc(release.position), asc(iteration.position))
      .all(),
    builds: tx
      .select({
        id: build.id,
        release: build.releaseId,
        name: build.name,
        state: build.state,
        position: build.position,
        offeredAt: build.offeredAt,
      })
      .from(build)
      .where(eq(build.projectId, row.id))
      .orderBy(asc(build.position))
      .all(),
    environments: tx
      .select()
      .from(environment)
      .where(and(eq(environment.projectId, row.id), isNull(environment.deletedAt)))
      .orderBy(asc(environment.position))
      .all()
      .map(({ id, name, isAny, seats }) => ({
        id,
        name,
        isAny,
        seats,
        values: Object.fromEntries((values.get(id) ?? []).map(({ factor, value }) => [factor, value])),
      })),
    people: people.map((each) => ({
      ...each,
      initials: initials(each.name),
      skills: each.skills === '' ? [] : each.skills.split(','),
    })),
    components: componentsOf(tx, row.id),
  }
}

export const componentsOf = (tx: Tx, projectId: number): string[] =>
  tx
    .all<{ name: string }>(
      sql`select distinct component as name from requirement where project_id = ${projectId} and component <> '' order by 1 limit 200`,
    )
    .map(({ name }) => name)

const nextPosition = (tx: Tx, table: 'release' | 'build' | 'environment', projectId: number): number =>
  (tx.get<{ n: number | null }>(sql`select max(position) as n from ${sql.raw(table)} where project_id = ${projectId}`)
    ?.n ?? 0) + 1

export const addRelease = (
  tx: Tx,
  projectId: number,
  of: Pick<typeof release.$inferInsert, 'name' | 'state' | 'startOn' | 'dueOn'>,
): number =>
  tx
    .insert(release)
    .values({ ...of, projectId, position: nextPosition(tx, 'release', projectId) })
    .returning({ id: release.id })
    .get().id

export function addIteration(
  tx: Tx,
  of: Pick<typeof iteration.$inferInsert, 'name' | 'startOn' | 'dueOn' | 'releaseId'>,
): number {
  const last =
    tx.get<{ n: number | null }>(sql`select max(position) as n from iteration where release_id = ${of.releaseId}`)?.n ??
    0
  return tx
    .insert(iteration)
    .values({ ...of, position: last + 1 })
    .returning({ id: iteration.id })
    .get().id
}

export const addBuild = (
  tx: Tx,
  projectId: number,
  of: {
    releaseId: number
    name: string
    offeredAt: number
    state?: 'Offered' | 'Refused' | 'Withdrawn'
    endedAt?: number
  },
): number =>
  tx
    .insert(build)
    .values({ state: 'Offered', ...of, projectId, position: nextPosition(tx, 'build', projectId) })
    .returning({ id: build.id })
    .get().id

export const setBuildState = (tx: Tx, id: number, state: 'Offered' | 'Refused' | 'Withdrawn', now: number): void =>
  void tx
    .update(build)
    .set({ state, endedAt: state === 'Offered' ? null : now })
    .where(eq(build.id, id))
    .run()

export function addEnvironment(
  tx: Tx,
  projectId: number,
  of: { name: string; seats: number | null; values: Readonly<Record<string, string>> },
): number {
  const { id } = tx
    .insert(environment)
    .values({ projectId, name: of.name, seats: of.seats, position: nextPosition(tx, 'environment', projectId) })
    .returning({ id: environment.id })
    .get()
  for (const [factor, value] of Object.entries(of.values))
    tx.insert(environmentValue).values({ environmentId: id, factor, value }).run()
  return id
}

/** Does a row with this id belong to the project? Ids from outside are asked before they are used. */
export function belongs(
  tx: Tx,
  projectId: number,
  table: 'release' | 'build' | 'environment' | 'suite' | 'test_case' | 'plan' | 'folder' | 'requirement',
  id: number,
): boolean {
  return (
    tx.get(sql`select 1 as one from ${sql.raw(table)} where id = ${id} and project_id = ${projectId}`) !== undefined
  )
}

export const iterationRelease = (tx: Tx, id: number): { releaseId: number; projectId: number } | undefined =>
  tx.get(
    sql`select i.release_id as releaseId, r.project_id as projectId from iteration i join release r on r.id = i.release_id where i.id = ${id}`,
  )

export const listViews = (
  tx: Tx,
  projectId: number,
  list: string,
  personId: string,
): { id: number; name: string; shared: boolean; mine: boolean; query: string }[] =>
  tx
    .select()
    .from(savedView)
    .where(and(eq(savedView.projectId, projectId), eq(savedView.list, list), isNull(savedView.deletedAt)))
    .orderBy(savedView.name)
    .all()
    .filter((view) => view.shared || view.ownerId === personId)
    .map(({ id, name, shared, ownerId, query }) => ({ id, name, shared, mine: ownerId === personId, query }))

export const addView = (
  tx: Tx,
  of: { projectId: number; list: string; name: string; ownerId: string; shared: boolean; query: string },
): number => tx.insert(savedView).values(of).returning({ id: savedView.id }).get().id

export const hideView = (tx: Tx, projectId: number, id: number, personId: string, now: number): number =>
  tx
    .update(savedView)
    .set({ deletedAt: now })
    .where(and(eq(savedView.id, id), eq(savedView.projectId, projectId), eq(savedView.ownerId, personId)))
    .run().changes
