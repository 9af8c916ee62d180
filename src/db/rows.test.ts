import { sql } from 'drizzle-orm'
import { expect } from 'chai'
import { memoryDb } from '#test/memory.ts'
import { int, maybe, oneOf, rowOf, rowsOf, text } from './rows.ts'

const db = memoryDb()
const shape = { id: int, title: text, due: maybe(text), state: oneOf(['Open', 'Closed']) }

it('reads rows whose columns hold what they are said to hold', () =>
  expect(
    rowsOf(
      db,
      shape,
      sql`select 1 as id, 'a' as title, null as due, 'Open' as state union select 2, 'b', 'c', 'Closed'`,
    ),
  ).to.deep.equal([
    { id: 1, title: 'a', due: null, state: 'Open' },
    { id: 2, title: 'b', due: 'c', state: 'Closed' },
  ]))
it('names the column that is not there, or holds something else', () => {
  expect(() => rowsOf(db, { id: int }, sql`select 1 as number`)).to.throw(
    'column id of a query is undefined, not a number',
  )
  expect(() => rowsOf(db, { id: int }, sql`select 'x' as id`)).to.throw('column id of a query is "x", not a number')
  expect(() => rowOf(db, { due: text }, sql`select null as due`)).to.throw('not a text')
  expect(() => rowOf(db, { state: shape.state }, sql`select 'Lost' as state`)).to.throw('not one of Open, Closed')
})
it('looks at every row, and not only at the first', () =>
  expect(() => rowsOf(db, { id: int }, sql`select 1 as id union all select null`)).to.throw('column id'))
it('tells no row from a row of nothing', () => {
  expect(rowOf(db, { id: int }, sql`select 1 as id where 0`)).to.equal(undefined)
  expect(rowOf(db, { id: maybe(int) }, sql`select null as id`)).to.deep.equal({ id: null })
})
