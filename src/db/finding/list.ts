import { numbersIn } from '#db/json.ts'
import { int, maybe, rowOf, rowsOf, text } from '#db/rows.ts'
import { numberIn, typedKey } from '#core/lib/key.ts'
import { type SQL, sql } from 'drizzle-orm'
import { type Condition, type Filter, type Operator, type SortKey, searchWords } from '#core/lib/filter.ts'
import type { OrderAnswer } from '#core/lib/shapes.ts'
import type { Tx } from '#db/open.ts'
import { contains } from './contains.ts'

/** What a list can be asked about: an expression per field, all over one `from`. */
export interface ListSource {
  readonly id: SQL
  readonly from: SQL
  readonly where: SQL
  readonly fields: Readonly<Record<string, SQL>>
  /** Fields of which a row has several, such as those of its requirements. */
  readonly related?: Readonly<Record<string, Related>>
  readonly search: (word: string) => SQL
  readonly defaultSort: SQL
}

/** An expression over what a row has several of, and whether something holds of one of them. */
export interface Related {
  readonly expression: SQL
  readonly some: (holds: SQL) => SQL
}

export interface ListQuestion {
  readonly text?: string | undefined
  readonly filter: Filter | null
  readonly sort: readonly SortKey[]
  readonly group?: string | undefined
}

const orderLimit = 100_000

/** The ordered ids of a list, with how many it shows, how many there are, and the sizes of its groups. */
export function listOrder(tx: Tx, source: ListSource, question: ListQuestion): OrderAnswer {
  const group = question.group ? source.fields[question.group] : undefined
  const narrowed = question.filter !== null || searchWords(question.text ?? '').length > 0
  if (!group) {
    // One value instead of a row an id: a list of fifty thousand is told several times faster so.
    const told = rowOf(
      tx,
      { ids: text },
      sql`
        select json_group_array(id) as ids
        from (
          select ${source.id} as id
          from ${source.from}
          where ${whereOf(source, question)}
          order by ${sortOf(source, question)}
          limit ${orderLimit}
        )`,
    )
    const ids = numbersIn(told?.ids ?? '')
    return {
      ids,
      total: ids.length,
      all: narrowed || ids.length === orderLimit ? countAll(tx, source) : ids.length,
      groups: null,
    }
  }
  const rows = rowsOf(
    tx,
    { id: int, value: maybe(text) },
    sql`
      select ${source.id} as id, ${group} as value
      from ${source.from}
      where ${whereOf(source, question)}
      order by ${group} is null, ${group}, ${sortOf(source, question)}
      limit ${orderLimit}`,
  )
  return {
    ids: rows.map(({ id }) => id),
    total: rows.length,
    all: narrowed || rows.length === orderLimit ? countAll(tx, source) : rows.length,
    groups: runsOf(rows),
  }
}

/** Ids of one page, in order, and the total; without counting, the total is what is known to be there: this page, and one more where there are more. */
export function listPage(
  tx: Tx,
  source: ListSource,
  question: ListQuestion,
  page: { cursor: number; limit: number; count: boolean },
): { ids: number[]; total: number } {
  const rows = rowsOf(
    tx,
    { id: int },
    sql`
      select ${source.id} as id
      from ${source.from}
      where ${whereOf(source, question)}
      order by ${sortOf(source, question)}
      limit ${page.limit + (page.count ? 0 : 1)} offset ${page.cursor}`,
  )
  if (!page.count) return { ids: rows.slice(0, page.limit).map(({ id }) => id), total: page.cursor + rows.length }
  const total = rowOf(tx, { n: int }, sql`select count(*) as n from ${source.from} where ${whereOf(source, question)}`)
  return { ids: rows.map(({ id }) => id), total: total?.n ?? 0 }
}

const countAll = (tx: Tx, source: ListSource): number =>
  rowOf(tx, { n: int }, sql`select count(*) as n from ${source.from} where ${source.where}`)?.n ?? 0

function runsOf(rows: readonly { value: string | null }[]): { value: string | null; count: number }[] {
  const groups: { value: string | null; count: number }[] = []
  for (const { value } of rows) {
    const text = value === null ? null : String(value)
    const last = groups.at(-1)
    if (last && last.value === text) last.count += 1
    else groups.push({ value: text, count: 1 })
  }
  return groups
}

function whereOf(source: ListSource, question: ListQuestion): SQL {
  const words = searchWords(question.text ?? '').map((word) => source.search(word))
  const filter = question.filter ? [filterSql(source, question.filter)] : []
  return sql.join([source.where, ...words, ...filter], sql` and `)
}

function sortOf(source: ListSource, question: ListQuestion): SQL {
  const keys = question.sort.flatMap(({ field, descending }) => {
    const expression = source.fields[field]
    return expression ? [sql`${expression} is null, ${expression} ${sql.raw(descending ? 'desc' : 'asc')}`] : []
  })
  return sql.join([...keys, source.defaultSort], sql`, `)
}

/** Ids of all that fit, in no order. */
export const listIds = (tx: Tx, source: ListSource, question: Pick<ListQuestion, 'text' | 'filter'>): number[] =>
  numbersIn(
    rowOf(
      tx,
      { ids: text },
      sql`
        select json_group_array(${source.id}) as ids
        from ${source.from}
        where ${whereOf(source, { ...question, sort: [] })}`,
    )?.ids ?? '',
  )

function filterSql(source: ListSource, filter: Filter): SQL {
  if (!('field' in filter)) {
    const [parts, word] = 'all' in filter ? [filter.all, sql` and `] : [filter.any, sql` or `]
    return parts.length === 0
      ? sql`1`
      : sql`(${sql.join(
          parts.map((part) => filterSql(source, part)),
          word,
        )})`
  }
  const related = source.related?.[filter.field]
  if (!related) return conditionSql(source.fields[filter.field] ?? sql`null`, filter)
  const holds = (op: Operator) => related.some(conditionSql(related.expression, { ...filter, op }))
  // What denies something denies it of all of them.
  if (filter.op === 'is not') return sql`not ${holds('is')}`
  return filter.op === 'is empty' ? sql`not ${holds('is not empty')}` : holds(filter.op)
}

function conditionSql(expression: SQL, { op, values: wanted }: Pick<Condition, 'op' | 'values'>): SQL {
  const values = sql`(select value from json_each(${JSON.stringify(wanted)}))`
  const first = wanted[0] ?? ''
  switch (op) {
    case 'is':
      return wanted.length === 1 ? sql`${expression} = ${first}` : sql`${expression} in ${values}`
    case 'is not':
      return sql`(${expression} is null or ${expression} not in ${values})`
    case 'contains':
      return contains(expression, String(first))
    case 'above':
      return sql`${expression} > ${Number(first)}`
    case 'below':
      return sql`${expression} < ${Number(first)}`
    case 'is empty':
      return sql`(${expression} is null or ${expression} = '')`
    case 'is not empty':
      return sql`(${expression} is not null and ${expression} <> '')`
  }
}

/** Which of the searchable kinds a row of the search index is; its rowid is id × 4 + this. */
export const searchKind = { requirement: 1, case: 2, defect: 3 } as const

/** A word in title or body by the trigram index; too short for a trigram, by a scan of titles; or the key itself. */
export function wordSearch(kind: keyof typeof searchKind, at: { id: SQL; number: SQL; title: SQL }, word: string): SQL {
  const number = numberIn(kind, typedKey(kind, word) ?? '')
  const byKey = number > 0 ? sql`${at.number} = ${number} or ` : sql``
  if (word.length < 3) return sql`(${byKey}${contains(at.title, word)})`
  const phrase = `"${word.replaceAll('"', '""')}"`
  const remainder = searchKind[kind]
  return sql`
    (${byKey}${at.id} in (select (rowid - ${sql.raw(String(remainder))}) / 4 from search where search match ${phrase} and rowid % 4 = ${sql.raw(String(remainder))}))`
}

export const inIds = (expression: SQL, ids: readonly number[]): SQL =>
  sql`${expression} in (select value from json_each(${JSON.stringify(ids)}))`
