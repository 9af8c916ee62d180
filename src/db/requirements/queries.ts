import { and, eq, isNull, sql } from 'drizzle-orm'
import { groupBy } from '#core/lib/group.ts'
import { outlineOrder, type OutlinePlace } from '#core/requirements/outline.ts'
import type { RequirementRow } from '#core/requirements/contract.ts'
import { riskOf } from '#core/requirements/requirement.ts'
import { inIds, type ListSource, wordSearch } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { tagsOf, valuesOf } from '#db/projects/fields.ts'
import { requirement, requirementRevision, requirementTarget } from './tables.ts'

export type RequirementStored = typeof requirement.$inferSelect

export const requirementId = sql`r.id`

const day = 86_400_000

/** What can be asked of requirements; ages are told as of `now`. */
export const requirementSource = (projectId: number, now = 0): ListSource => ({
  id: sql`r.id`,
  from: sql`requirement r`,
  where: sql`r.project_id = ${projectId} and r.deleted_at is null`,
  fields: {
    // Said of a scope: the server puts the ids it holds for in its place before a list is asked.
    finding: sql`null`,
    made: sql`cast((${now} - r.created_at) / ${day} as integer)`,
    changed: sql`cast((${now} - r.updated_at) / ${day} as integer)`,
    id: sql`r.id`,
    number: sql`r.number`,
    title: sql`r.title`,
    kind: sql`r.kind`,
    component: sql`r.component`,
    state: sql`r.state`,
    risk: sql`(r.likelihood * r.impact)`,
    likelihood: sql`r.likelihood`,
    impact: sql`r.impact`,
    priority: sql`r.priority`,
    release: sql`(select min(e.name) from requirement_target t join release e on e.id = t.release_id where t.requirement_id = r.id)`,
    iteration: sql`(select min(i.name) from requirement_target t join iteration i on i.id = t.iteration_id where t.requirement_id = r.id)`,
    owner: sql`(select name from person where id = r.owner_id)`,
    outside: sql`r.outside_ref`,
    cases: sql`(select count(distinct l.case_id) from link l join test_case c on c.id = l.case_id where l.requirement_id = r.id and l.until_at is null and c.deleted_at is null and c.retired_at is null)`,
    suspect: sql`(select count(*) from link l where l.requirement_id = r.id and l.until_at is null and l.confirmed_revision < r.revision)`,
    revision: sql`r.revision`,
    text: sql`r.text`,
    tags: sql`(select group_concat(tag, ', ') from tagging where owner_kind = 'requirement' and owner_id = r.id)`,
  },
  search: (word) => wordSearch('requirement', { id: sql`r.id`, number: sql`r.number`, title: sql`r.title` }, word),
  defaultSort: sql`r.number`,
})

export const outlinePlaces = (tx: Tx, projectId: number): OutlinePlace[] =>
  tx.all(
    sql`select id, parent_id as parent, position from requirement where project_id = ${projectId} and deleted_at is null`,
  )

type RowAnswer = Omit<RequirementRow, 'depth' | 'risk' | 'hasChildren' | 'tags' | 'custom'> & { hasChildren: number }

/** Rows in the order of `ids`; `depths` tells how deep each sits in the outline. */
export function requirementRows(
  tx: Tx,
  projectId: number,
  ids: readonly number[],
  depths: ReadonlyMap<number, number>,
): RequirementRow[] {
  const f = requirementSource(projectId).fields
  const rows = tx.all<RowAnswer>(sql`
    select r.id, 'RQ-' || r.number as key, r.number, r.parent_id as parent, r.position, r.title, r.kind, r.component, r.state, r.likelihood, r.impact, r.priority,
      ${f['release']} as "release", ${f['iteration']} as iteration, ${f['owner']} as owner, r.outside_ref as outside, r.revision, ${f['cases']} as cases, ${f['suspect']} as suspect, r.version,
      exists(select 1 from requirement c where c.project_id = r.project_id and c.parent_id = r.id and c.deleted_at is null) as hasChildren
    from requirement r where r.project_id = ${projectId} and r.deleted_at is null and ${inIds(sql`r.id`, ids)}`)
  const byId = new Map(rows.map((row) => [row.id, row]))
  const [tags, values] = [tagsOf(tx, 'requirement', ids), valuesOf(tx, 'requirement', projectId, ids)]
  return ids.flatMap((id) => {
    const row = byId.get(id)
    return row
      ? [
          {
            ...row,
            tags: tags.get(id) ?? [],
            custom: values.get(id) ?? {},
            hasChildren: row.hasChildren === 1,
            depth: depths.get(id) ?? 0,
            risk: riskOf(row.likelihood, row.impact),
          },
        ]
      : []
  })
}

export const depthsOf = (tx: Tx, projectId: number): Map<number, number> =>
  new Map(outlineOrder(outlinePlaces(tx, projectId)).map(({ place, depth }) => [place.id, depth]))

export const findRequirement = (tx: Tx, projectId: number, number: number): RequirementStored | undefined =>
  tx
    .select()
    .from(requirement)
    .where(and(eq(requirement.projectId, projectId), eq(requirement.number, number)))
    .get()

export const requirementById = (tx: Tx, projectId: number, id: number): RequirementStored | undefined =>
  tx
    .select()
    .from(requirement)
    .where(and(eq(requirement.projectId, projectId), eq(requirement.id, id)))
    .get()

export interface NewRequirement {
  readonly projectId: number
  readonly number: number
  readonly parentId: number | null
  readonly position: number
  readonly title: string
  readonly text?: string
  readonly kind?: string
  readonly component?: string
  readonly state?: RequirementStored['state']
  readonly likelihood?: number | null
  readonly impact?: number | null
  readonly priority?: number | null
  readonly ownerId?: string | null
  readonly outsideRef?: string
  readonly outsideUrl?: string
  readonly createdAt?: number
  readonly deletedAt?: number
}

export function addRequirement(tx: Tx, of: NewRequirement, by: { now: number; personId: string | null }): number {
  const { id } = tx
    .insert(requirement)
    .values({ createdAt: by.now, ...of, updatedAt: by.now })
    .returning({ id: requirement.id })
    .get()
  tx.insert(requirementRevision)
    .values({ requirementId: id, revision: 1, title: of.title, text: of.text ?? '', at: by.now, personId: by.personId })
    .run()
  return id
}

export const lastPosition = (tx: Tx, projectId: number, parentId: number | null): number =>
  tx.get<{ n: number | null }>(
    sql`select max(position) as n from requirement where project_id = ${projectId} and parent_id is ${parentId}`,
  )?.n ?? 0

/** Stores an edit; a change of title or text writes the next revision. */
export function saveRequirement(
  tx: Tx,
  before: RequirementStored,
  edit: Partial<RequirementStored>,
  by: { now: number; personId: string | null },
): RequirementStored {
  const after = { ...before, ...edit, updatedAt: by.now, version: before.version + 1 }
  const revised = after.title !== before.title || after.text !== before.text
  if (revised) after.revision = before.revision + 1
  tx.update(requirement).set(after).where(eq(requirement.id, before.id)).run()
  if (revised)
    tx.insert(requirementRevision)
      .values({
        requirementId: before.id,
        revision: after.revision,
        title: after.title,
        text: after.text,
        at: by.now,
        personId: by.personId,
      })
      .run()
  return after
}

/** The targets of many requirements by one statement. */
export function targetsOfMany(
  tx: Tx,
  ids: readonly number[],
): Map<number, { release: number; iteration: number | null; name: string }[]> {
  const rows = tx.all<{ id: number; release: number; iteration: number | null; name: string }>(sql`
    select t.requirement_id as id, t.release_id as "release", t.iteration_id as iteration, e.name || coalesce(' from ' || i.name, '') as name
    from requirement_target t join "release" e on e.id = t.release_id left join iteration i on i.id = t.iteration_id where ${inIds(sql`t.requirement_id`, ids)} order by t.requirement_id, t.release_id`)
  const byId = groupBy(rows, ({ id }) => id)
  return new Map(
    ids.map((id) => [id, (byId.get(id) ?? []).map(({ release, iteration, name }) => ({ release, iteration, name }))]),
  )
}

/** Gives many requirements the same targets. */
export function setManyTargets(
  tx: Tx,
  ids: readonly number[],
  targets: readonly { release: number; iteration: number | null }[],
): void {
  tx.run(sql`delete from requirement_target where ${inIds(sql`requirement_id`, ids)}`)
  for (const { release, iteration } of targets)
    tx.run(
      sql`insert into requirement_target (requirement_id, release_id, iteration_id) select value, ${release}, ${iteration} from json_each(${JSON.stringify(ids)})`,
    )
}

export function setTargets(
  tx: Tx,
  requirementId: number,
  targets: readonly { release: number; iteration: number | null }[],
): void {
  tx.delete(requirementTarget).where(eq(requirementTarget.requirementId, requirementId)).run()
  for (const { release, iteration } of targets)
    tx.insert(requirementTarget).values({ requirementId, releaseId: release, iterationId: iteration }).run()
}

export const targetsOf = (
  tx: Tx,
  requirementId: number,
): { release: number; releaseName: string; iteration: number | null; iterationName: string | null }[] =>
  tx.all(
    sql`select t.release_id as "release", e.name as releaseName, t.iteration_id as iteration, i.name as iterationName from requirement_target t join release e on e.id = t.release_id left join iteration i on i.id = t.iteration_id where t.requirement_id = ${requirementId} order by e.position`,
  )

export const childrenOf = (tx: Tx, projectId: number, id: number): { key: string; title: string }[] =>
  tx.all(
    sql`select 'RQ-' || number as key, title from requirement where project_id = ${projectId} and parent_id = ${id} and deleted_at is null order by position`,
  )

export function pathOf(tx: Tx, id: number): { key: string; title: string }[] {
  const rows = tx.all<{ key: string; title: string }>(sql`
    with recursive up(id, parent_id, number, title, depth) as (select id, parent_id, number, title, 0 from requirement where id = ${id}
      union all select r.id, r.parent_id, r.number, r.title, up.depth + 1 from requirement r join up on r.id = up.parent_id where up.depth < 50)
    select 'RQ-' || number as key, title from up where depth > 0 order by depth desc`)
  return rows
}

/** The ids and everything below them, not yet deleted. */
export const branchIds = (tx: Tx, projectId: number, ids: readonly number[]): { id: number; key: string }[] =>
  tx.all(sql`
    with recursive down(id) as (select r.id from requirement r where r.project_id = ${projectId} and ${inIds(sql`r.id`, ids)}
      union select r.id from requirement r join down on r.parent_id = down.id where r.project_id = ${projectId})
    select r.id, 'RQ-' || r.number as key from requirement r join down on down.id = r.id where r.deleted_at is null`)

export function placeRequirement(tx: Tx, id: number, parentId: number | null, order: readonly number[]): void {
  tx.update(requirement).set({ parentId }).where(eq(requirement.id, id)).run()
  order.forEach((sibling, index) =>
    tx
      .update(requirement)
      .set({ position: index + 1 })
      .where(eq(requirement.id, sibling))
      .run(),
  )
}

export const siblings = (tx: Tx, projectId: number, parentId: number | null): number[] =>
  tx
    .select({ id: requirement.id })
    .from(requirement)
    .where(
      and(
        eq(requirement.projectId, projectId),
        parentId === null ? isNull(requirement.parentId) : eq(requirement.parentId, parentId),
        isNull(requirement.deletedAt),
      ),
    )
    .orderBy(requirement.position, requirement.id)
    .all()
    .map(({ id }) => id)

export const defectsOfRequirement = (
  tx: Tx,
  id: number,
): { key: string; title: string; state: string; severity: string }[] =>
  tx.all(
    sql`select distinct 'DF-' || d.number as key, d.title, d.state, d.severity from defect_link l join defect d on d.id = l.defect_id where l.requirement_id = ${id} and l.until_at is null and d.deleted_at is null order by d.number desc limit 100`,
  )

export const revisionsOf = (
  tx: Tx,
  id: number,
): { revision: number; title: string; text: string; at: number; by: string | null }[] =>
  tx.all(
    sql`select v.revision, v.title, v.text, v.at, p.name as "by" from requirement_revision v left join person p on p.id = v.person_id where v.requirement_id = ${id} order by v.revision desc`,
  )

export const titlesOf = (tx: Tx, projectId: number): Map<number, string> =>
  new Map(
    tx
      .all<{ id: number; title: string }>(
        sql`select id, title from requirement where project_id = ${projectId} and deleted_at is null`,
      )
      .map(({ id, title }) => [id, title]),
  )
export const childIds = (tx: Tx, projectId: number, parent: number): number[] =>
  tx
    .all<{ id: number }>(
      sql`select id from requirement where project_id = ${projectId} and parent_id = ${parent} and deleted_at is null order by position`,
    )
    .map(({ id }) => id)
export const byOutsideRef = (tx: Tx, projectId: number, refs: readonly string[]): Map<string, string> =>
  new Map(
    tx
      .all<{ ref: string; key: string }>(
        sql`select outside_ref as ref, 'RQ-' || number as key from requirement where project_id = ${projectId} and deleted_at is null and outside_ref in (select value from json_each(${JSON.stringify(refs)}))`,
      )
      .map(({ ref, key }) => [ref, key]),
  )
export const mergedRequirement = (tx: Tx, projectId: number, key: string): string | undefined =>
  tx.get<{ key: string }>(
    sql`select 'RQ-' || r.number as key from alias a join requirement r on r.id = a.owner_id join requirement old on old.project_id = a.project_id and 'RQ-' || old.number = a.key where a.project_id = ${projectId} and a.key = ${key} and a.kind = 'requirement' and r.deleted_at is null and old.deleted_at is not null`,
  )?.key
export const outsideReferences = (
  tx: Tx,
  projectKey: string,
): { ref: string; title: string; text: string; owner: string | null; state: string; at: number }[] =>
  tx.all(
    sql`select r.outside_ref as ref, r.title, r.text, p.name as owner, r.state, r.created_at as at from requirement r join project j on j.id = r.project_id left join person p on p.id = r.owner_id where j.key = ${projectKey} and r.outside_ref <> '' and r.deleted_at is null order by r.number`,
  )
