import { expect } from 'chai'
import { linesOf } from './lines.ts'

it('draws a row for each id, in order', () =>
  expect(linesOf({ ids: [3, 1, 2], total: 3, all: 9, groups: null })).to.deep.equal([
    { kind: 'row', id: 3 },
    { kind: 'row', id: 1 },
    { kind: 'row', id: 2 },
  ]))
it('puts a head before the rows of each group', () => {
  const groups = [
    { value: 'Open', count: 2 },
    { value: null, count: 1 },
  ]
  expect(linesOf({ ids: [3, 1, 2], total: 3, all: 3, groups })).to.deep.equal([
    { kind: 'group', value: 'Open', count: 2 },
    { kind: 'row', id: 3 },
    { kind: 'row', id: 1 },
    { kind: 'group', value: null, count: 1 },
    { kind: 'row', id: 2 },
  ])
})
it('draws no row twice when only the first ids are here', () => {
  const groups = [
    { value: 'a', count: 2 },
    { value: 'b', count: 50 },
  ]
  const rows = linesOf({ ids: [1, 2, 3], total: 52, all: 52, groups }).filter(({ kind }) => kind === 'row')
  expect(rows).to.have.length(3)
})
