import { expect } from 'chai'
import fc from 'fast-check'
import { allCaseFields } from '#core/finding/fields.ts'
import { caseAskSource, ownFieldsOf } from '#db/cases/ask.ts'
import { type Condition, type Filter, parseSort } from '#core/lib/filter.ts'
import { caseRows, caseSource } from '#db/cases/list.ts'
import type { Db } from '#db/open.ts'
import { demoDb } from '../../../test/memory.ts'
import { listOrder, listPage } from './list.ts'
import { searchObjects } from './search.ts'

let db: Db
before(async () => {
  db = await demoDb(Date.UTC(2026, 10, 23))
})
after(() => db.$client.close())
const all = { filter: null, sort: [] }
const rows = () => caseRows(db, 1, listOrder(db, caseSource(1), all).ids)
type Row = ReturnType<typeof rows>[number]

/** The operators told again in plain JavaScript, over the rows a person sees. */
function holds(row: Row, filter: Filter): boolean {
  if ('all' in filter) return filter.all.every((part) => holds(row, part))
  if ('any' in filter) return filter.any.length === 0 || filter.any.some((part) => holds(row, part))
  const value = Object(row)[filter.field]
  const empty = value === null || value === ''
  switch (filter.op) {
    case 'is':
      return filter.values.some((each) => each === value)
    case 'is not':
      return value === null || !filter.values.some((each) => each === value)
    case 'contains':
      return (
        !empty &&
        String(value)
          .toLowerCase()
          .includes(String(filter.values[0] ?? '').toLowerCase())
      )
    case 'above':
      return value !== null && value > Number(filter.values[0])
    case 'below':
      return value !== null && value < Number(filter.values[0])
    case 'is empty':
      return empty
    case 'is not empty':
      return !empty
  }
}

const condition: fc.Arbitrary<Condition> = fc.oneof(
  fc.record({
    field: fc.constant('importance'),
    op: fc.constantFrom('is' as const, 'is not' as const),
    values: fc.uniqueArray(fc.constantFrom('Critical', 'High', 'Low'), { minLength: 1 }),
  }),
  fc.record({
    field: fc.constantFrom('steps', 'estimate', 'requirements'),
    op: fc.constantFrom('above' as const, 'below' as const, 'is' as const),
    values: fc.integer({ min: 0, max: 20 }).map((n) => [n]),
  }),
  fc.record({
    field: fc.constantFrom('owner', 'component', 'estimate'),
    op: fc.constantFrom('is empty' as const, 'is not empty' as const),
    values: fc.constant([]),
  }),
  fc.record({
    field: fc.constantFrom('title', 'component'),
    op: fc.constant('contains' as const),
    values: fc.constantFrom('pay', 'Deck', '%', '4.5', 'fare').map((word) => [word]),
  }),
)
const filter: fc.Arbitrary<Filter> = fc.letrec<{ filter: Filter }>((tie) => ({
  filter: fc.oneof(
    { depthSize: 'small' },
    condition,
    fc.array(tie('filter'), { minLength: 1, maxLength: 3 }).map((all_) => ({ all: all_ })),
    fc.array(tie('filter'), { minLength: 1, maxLength: 3 }).map((any) => ({ any })),
  ),
})).filter

it('filters in SQL exactly as the words of a filter say', () => {
  const shown = rows()
  expect(shown.length).to.be.greaterThan(150)
  fc.assert(
    fc.property(filter, (each) => {
      expect(listOrder(db, caseSource(1), { filter: each, sort: [] }).ids).to.deep.equal(
        shown.filter((row) => holds(row, each)).map(({ id }) => id),
      )
    }),
    { numRuns: 150 },
  )
})
it('sorts with the empty last, and pages what it orders', () => {
  const sort = parseSort('estimate,-title')
  const { ids, total } = listOrder(db, caseSource(1), { filter: null, sort })
  const estimates = caseRows(db, 1, ids).map(({ estimate }) => estimate)
  const given = estimates.filter((each) => each !== null)
  expect(estimates.slice(0, given.length)).to.deep.equal([...given].sort((a, b) => a - b))
  const paged = [0, 70, 140, 210].flatMap(
    (cursor) => listPage(db, caseSource(1), { filter: null, sort }, { cursor, limit: 70, count: true }).ids,
  )
  expect([paged, total]).to.deep.equal([ids, ids.length])
  // Without counting it says of the rest only whether there is any.
  expect(listPage(db, caseSource(1), { filter: null, sort }, { cursor: 0, limit: 70, count: false })).to.deep.equal({
    ids: ids.slice(0, 70),
    total: 71,
  })
  expect(
    listPage(db, caseSource(1), { filter: null, sort }, { cursor: ids.length - 5, limit: 70, count: false }),
  ).to.deep.equal({ ids: ids.slice(-5), total: ids.length })
})
it('groups rows that follow one another, and counts them', () => {
  const order = listOrder(db, caseSource(1), { ...all, group: 'importance' })
  const byId = new Map(rows().map((row) => [row.id, row.importance]))
  let at = 0
  for (const { value, count } of order.groups ?? [])
    for (let n = 0; n < count; n++) expect(byId.get(order.ids[at++] ?? 0)).to.equal(value)
  expect(at).to.equal(order.total)
})
it('finds by key, by words in any order, and by parts of words', () => {
  expect(searchObjects(db, 1, ['tc-17'], 5)[0]).to.deep.equal({
    ref: 'TC-17',
    kind: 'case',
    title: 'Car of 4.51 m pays the middle band',
  })
  expect(searchObjects(db, 1, ['lost', 'voucher'], 5).map(({ title }) => title)).to.include(
    'Rest of a voucher is lost after paying',
  )
  expect(searchObjects(db, 1, ['oucher'], 30).length).to.be.greaterThan(5)
  expect(searchObjects(db, 1, ['rc2'], 5)[0]?.kind).to.equal('run')
  expect(searchObjects(db, 2, ['voucher'], 5), 'another project').to.deep.equal([])
})
it('has a field expression for every field that is offered', () => {
  const own = ownFieldsOf(db, 1)
  const source = caseAskSource(1, own)
  for (const { name } of allCaseFields(own))
    expect({ ...source.fields, ...source.related }, name).to.have.property(name)
})
it('uses an index for the list’s first page and the search for words', () => {
  const plan = db.$client
    .prepare(
      'explain query plan select id from test_case c where c.project_id = 1 and c.deleted_at is null order by c.number limit 100',
    )
    .all()
  expect(JSON.stringify(plan))
    .to.match(/USING (COVERING )?INDEX case_(live|number)/)
    .and.not.match(/TEMP B-TREE/)
})
