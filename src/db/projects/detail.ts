import { rowsOf, text } from '#db/rows.ts'
import { policyById } from './policies.ts'
import { verdictKinds, verdictReasons } from './verdict-kinds.ts'
import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { Project } from '#core/projects/contract.ts'
import { initials } from '#core/history/changes.ts'
import { groupBy } from '#core/lib/group.ts'
import type { Tx } from '#db/open.ts'
import { staffOf } from '#db/people/members.ts'
import { build, environment, environmentValue, iteration, outage, release } from './tables.ts'
import { weightsIn } from '#core/projects/weights.ts'
import { holidaysOf } from './holidays.ts'
import type { ProjectRow } from './projects.ts'

/** A project as everybody in it sees it; `role` is of who asks. */
export const projectDetail = (tx: Tx, row: ProjectRow, role: Project['role']): Project => ({
  id: row.id,
  key: row.key,
  name: row.name,
  product: row.product,
  timeZone: row.timeZone,
  freshnessDays: row.freshnessDays,
  approvalRequired: row.approvalRequired,
  dealing: row.dealing,
  reasonAsked: row.reasonAsked,
  secondFactorAsked: row.secondFactorAsked,
  workingDays: row.workingDays,
  holidays: holidaysOf(tx, row.id),
  switchMinutes: row.switchMinutes,
  reservePercent: row.reservePercent,
  weights: weightsIn(row.worthWeights),
  role,
  releases: releasesOf(tx, row.id),
  iterations: iterationsOf(tx, row.id),
  builds: buildsOf(tx, row.id),
  environments: environmentsOf(tx, row.id),
  people: peopleOf(tx, row.id),
  components: componentsOf(tx, row.id),
  verdictKinds: verdictKinds(tx, row.id),
  reasons: verdictReasons(tx, row.id),
  policy: policyById(tx, row.policyId),
  policyVersion: row.policyId ?? 0,
})

const releasesOf = (tx: Tx, projectId: number): Project['releases'] =>
  tx
    .select({
      id: release.id,
      name: release.name,
      state: release.state,
      startOn: release.startOn,
      dueOn: release.dueOn,
      position: release.position,
    })
    .from(release)
    .where(and(eq(release.projectId, projectId), isNull(release.deletedAt)))
    .orderBy(asc(release.position))
    .all()

const iterationsOf = (tx: Tx, projectId: number): Project['iterations'] =>
  tx
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
    .where(and(eq(release.projectId, projectId), isNull(iteration.deletedAt)))
    .orderBy(asc(release.position), asc(iteration.position))
    .all()

const buildsOf = (tx: Tx, projectId: number): Project['builds'] =>
  tx
    .select({
      id: build.id,
      release: build.releaseId,
      name: build.name,
      state: build.state,
      position: build.position,
      offeredAt: build.offeredAt,
    })
    .from(build)
    .where(eq(build.projectId, projectId))
    .orderBy(asc(build.position))
    .all()

function environmentsOf(tx: Tx, projectId: number): Project['environments'] {
  const values = groupBy(
    tx
      .select({ id: environmentValue.environmentId, factor: environmentValue.factor, value: environmentValue.value })
      .from(environmentValue)
      .innerJoin(environment, eq(environment.id, environmentValue.environmentId))
      .where(eq(environment.projectId, projectId))
      .all(),
    ({ id }) => id,
  )
  const outages = new Map(
    tx
      .select({
        environment: outage.environmentId,
        id: outage.id,
        fromAt: outage.fromAt,
        untilAt: outage.untilAt,
        reason: outage.reason,
      })
      .from(outage)
      .where(and(eq(outage.projectId, projectId), isNull(outage.deletedAt)))
      .orderBy(asc(outage.fromAt))
      .all()
      .map(({ environment: own, ...rest }) => [own, rest]),
  )
  return tx
    .select()
    .from(environment)
    .where(and(eq(environment.projectId, projectId), isNull(environment.deletedAt)))
    .orderBy(asc(environment.position))
    .all()
    .map(({ id, name, isAny, seats, address }) => ({
      id,
      name,
      isAny,
      seats,
      address,
      outage: outages.get(id) ?? null,
      values: Object.fromEntries((values.get(id) ?? []).map(({ factor, value }) => [factor, value])),
    }))
}

const peopleOf = (tx: Tx, projectId: number): Project['people'] =>
  staffOf(tx, projectId).map((each) => ({ ...each, initials: initials(each.name) }))

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
