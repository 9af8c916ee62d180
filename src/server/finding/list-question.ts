import { type FieldDefinition, type Filter, parseFilter, parseSort } from '#core/lib/filter.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { ListQuery, OrderAnswer } from '#core/lib/shapes.ts'
import { listOrder, listPage, type ListQuestion, type ListSource } from '#db/finding/list.ts'
import type { Tx } from '#db/open.ts'

/** The text of an address as a question to a list, or a refusal that says what is wrong with it. */
function listQuestion(query: ListQuery, fields: readonly FieldDefinition[]): ListQuestion {
  const filter = filterAsked(query.filter, fields)
  const sort = parseSort(query.sort)
  const unknown = [...sort.map(({ field }) => field), ...(query.group ? [query.group] : [])].find(
    (field) => !fields.some(({ name }) => name === field),
  )
  if (unknown) throw new Refusal('invalid', `There is no field “${unknown}” to sort or group by here.`)
  return { text: query.text, filter, sort, group: query.group }
}

/** The filter of an address, or a refusal that says what is wrong with it. */
export function filterAsked(text: string | undefined, fields: readonly FieldDefinition[]): Filter | null {
  const parsed = parseFilter(text, fields)
  if ('problem' in parsed)
    throw new Refusal('invalid', parsed.problem, { fields: [{ field: 'query.filter', message: parsed.problem }] })
  return parsed.filter
}

export interface ListOf<T> {
  readonly source: ListSource
  readonly fields: readonly FieldDefinition[]
  readonly rows: (ids: readonly number[]) => T[]
}

/** One page of any list: by `ids`, or by cursor with the total. */
export function answerPage<T>(
  tx: Tx,
  query: ListQuery,
  of: ListOf<T>,
): { rows: T[]; total: number; next: number | null } {
  if (query.ids) return { rows: of.rows(query.ids), total: query.ids.length, next: null }
  const cursor = query.cursor ?? 0
  const { ids, total } = listPage(tx, of.source, listQuestion(query, of.fields), {
    cursor,
    limit: query.limit,
    count: query.count !== 'no',
  })
  return { rows: of.rows(ids), total, next: cursor + ids.length < total ? cursor + ids.length : null }
}

export const answerOrder = (tx: Tx, query: ListQuery, of: Pick<ListOf<unknown>, 'source' | 'fields'>): OrderAnswer =>
  listOrder(tx, of.source, listQuestion(query, of.fields))
