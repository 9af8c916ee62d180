import { type Condition, conditionsOf, type Filter, filterShape } from '#core/lib/filter.ts'
import { findings } from '#core/finding/fields.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { ListQuery, ScopeQuery } from '#core/lib/shapes.ts'
import type { OpenContext } from '#server/http/route.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { findingsJob } from '#server/workers/questions.ts'

/** A filter by what results of the scope say becomes a filter by the objects it holds for; any other filter stays as it is. */
export async function withFindings(
  { services, project, tx }: OpenContext,
  query: ListQuery & ScopeQuery,
  of: 'requirements' | 'cases',
): Promise<ListQuery> {
  if (!query.filter?.includes('"finding"')) return query
  const filter = read(query.filter)
  if (!filter || !conditionsOf(filter).some(({ field }) => field === 'finding')) return query
  const unknown = conditionsOf(filter).find(
    ({ field, values }) => field === 'finding' && values.some((value) => !findings.some((each) => each === value)),
  )
  if (unknown)
    throw new Refusal(
      'invalid',
      `“${unknown.values.join(', ')}” is nothing that can be found in a scope; choose one of ${findings.join(', ')}.`,
    )
  const found = await services.jobs.run(findingsJob, { projectId: project.id, scope: scopeOf(tx, project, query), of })
  const resolved = (condition: Condition): Condition => ({
    field: 'id',
    op: condition.op === 'is not' ? 'is not' : 'is',
    values: [...new Set(findings.filter((each) => condition.values.includes(each)).flatMap((each) => found[each]))],
  })
  return { ...query, filter: JSON.stringify(replaced(filter, resolved)) }
}

function read(text: string): Filter | null {
  try {
    const parsed = filterShape.safeParse(JSON.parse(text))
    return parsed.success ? parsed.data : null
  } catch {
    return null
  }
}

function replaced(filter: Filter, by: (condition: Condition) => Condition): Filter {
  if ('field' in filter) return filter.field === 'finding' ? by(filter) : filter
  return 'all' in filter
    ? { all: filter.all.map((part) => replaced(part, by)) }
    : { any: filter.any.map((part) => replaced(part, by)) }
}
