import { rowsOf, text } from '#db/rows.ts'
import { verdictKinds } from './verdict-kinds.ts'
import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { Project } from '#core/projects/contract.ts'
import { initials } from '#core/history/changes.ts'
import { groupBy } from '#core/lib/group.ts'
import type { Tx } from '#db/open.ts'
import { membership, person } from '#db/people/tables.ts'
import { build, environment, environmentValue, iteration, release } from './tables.ts'
import type { ProjectRow } from './projects.ts'

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
    verdictKinds: verdictKinds(tx, row.id),
  }
}

export const componentsOf = (tx: Tx, projectId: number): string[] =>
  rowsOf(
    tx,
    { name: text },
    sql`
      select distinct component as name
      from requirement
      where project_id = ${projectId} and component <> ''
      order by 1
      limit 200`,
  ).map(({ name }) => name)
