import { int, maybe, oneOf, rowsOf, text } from '#db/rows.ts'
import { requirementStates, riskOf } from '#core/requirements/requirement.ts'
import { isLiveCase } from '#db/rules.ts'
import { keySql } from '#db/key-sql.ts'
import { sql } from 'drizzle-orm'
import type { RequirementRow } from '#core/requirements/contract.ts'
import { inIds, type ListSource, wordSearch } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'
import { tagsOf, valuesOf } from '#db/projects/fields.ts'

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
    release: sql`
      (
        select min(e.name)
        from requirement_target t
        join release e on e.id = t.release_id
        where t.requirement_id = r.id
      )`,
    iteration: sql`
      (
        select min(i.name)
        from requirement_target t
        join iteration i on i.id = t.iteration_id
        where t.requirement_id = r.id
      )`,
    owner: sql`(select name from person where id = r.owner_id)`,
    outside: sql`r.outside_ref`,
    cases: sql`
      (
        select count(distinct l.case_id)
        from link l
        join test_case c on c.id = l.case_id
        where l.requirement_id = r.id and l.until_at is null and ${isLiveCase('c')}
      )`,
    suspect: sql`
      (
        select count(*)
        from link l
        where l.requirement_id = r.id and l.until_at is null and l.confirmed_revision < r.revision
      )`,
    revision: sql`r.revision`,
    text: sql`r.text`,
    tags: sql`(select group_concat(tag, ', ') from tagging where owner_kind = 'requirement' and owner_id = r.id)`,
  },
  search: (word) => wordSearch('requirement', { id: sql`r.id`, number: sql`r.number`, title: sql`r.title` }, word),
  defaultSort: sql`r.number`,
})

const rowShape = {
  number: int,
  release: maybe(text),
  id: int,
  key: text,
  position: int,
  state: oneOf(requirementStates),
  title: text,
  iteration: maybe(text),
  version: int,
  component: text,
  owner: maybe(text),
  kind: text,
  priority: maybe(int),
  cases: int,
  parent: maybe(int),
  likelihood: maybe(int),
  impact: maybe(int),
  outside: text,
  revision: int,
  suspect: int,
  hasChildren: int,
}

/** Rows in the order of `ids`; `depths` tells how deep each sits in the outline. */
export function requirementRows(
  tx: Tx,
  projectId: number,
  ids: readonly number[],
  depths: ReadonlyMap<number, number>,
): RequirementRow[] {
  const f = requirementSource(projectId).fields
  const rows = rowsOf(
    tx,
    rowShape,
    sql`
      select r.id, ${keySql('requirement', 'r.number')} as key, r.number, r.parent_id as parent, r.position,
        r.title, r.kind, r.component, r.state, r.likelihood, r.impact, r.priority, ${f['release']} as "release",
        ${f['iteration']} as iteration, ${f['owner']} as owner, r.outside_ref as outside, r.revision,
        ${f['cases']} as cases, ${f['suspect']} as suspect, r.version,
        exists(
          select 1
          from requirement c
          where c.project_id = r.project_id and c.parent_id = r.id and c.deleted_at is null
        ) as hasChildren
      from requirement r
      where r.project_id = ${projectId} and r.deleted_at is null and ${inIds(sql`r.id`, ids)}`,
  )
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
