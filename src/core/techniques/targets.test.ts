import { expect } from 'chai'
import fc from 'fast-check'
import { subsetsOf, Targets, tuplesOf } from './targets.ts'

const levels = Int32Array.of(2, 3, 4, 2)
const targets = new Targets(levels, [...subsetsOf([0, 1, 2, 3], 2), [0, 1, 2]])

describe('subsets', () => {
  it('are all of a size, in their order', () => {
    expect(subsetsOf([4, 5, 6], 2)).to.deep.equal([
      [4, 5],
      [4, 6],
      [5, 6],
    ])
    expect(subsetsOf([1, 2], 0)).to.deep.equal([[]])
    expect(subsetsOf([1, 2], 3)).to.deep.equal([])
  })
})

describe('the tuples rows are to hold', () => {
  it('are as many as the products of their columns', () => {
    expect(targets.size).to.equal(2 * 3 + 2 * 4 + 2 * 2 + 3 * 4 + 3 * 2 + 4 * 2 + 2 * 3 * 4)
    expect(tuplesOf(targets.subsets, levels)).to.equal(targets.size)
  })
  it('are each of one subset, whose values come back from the number', () => {
    const values = new Int32Array(4)
    const seen = new Set<string>()
    for (let tuple = 0; tuple < targets.size; tuple++) {
      const subset = targets.subsetOf(tuple)
      targets.read(tuple, subset, values)
      const columns = targets.subsets[subset]!
      seen.add(`${subset}:${values.slice(0, columns.length).join()}`)
      const row = new Int32Array(4).fill(-1)
      columns.forEach((column, at) => (row[column] = values[at]!))
      expect(targets.tupleIn(row, subset)).to.equal(tuple)
    }
    expect(seen.size).to.equal(targets.size)
  })
  it('are held by a row wherever none of their cells is open', () => {
    const cell = (level: number) => fc.integer({ min: -1, max: level - 1 })
    fc.assert(
      fc.property(fc.tuple(...[...levels].map(cell)), (row) => {
        targets.subsets.forEach((columns, subset) => {
          const open = columns.some((column) => row[column]! < 0)
          expect(targets.tupleIn(row, subset) < 0).to.equal(open)
        })
      }),
    )
  })
  it('are found in a row that begins anywhere', () => {
    const rows = Int32Array.of(1, 2, 3, 1, 0, 1, 2, 0)
    expect(targets.tupleIn(rows, 0, 4)).to.equal(targets.tupleIn([0, 1, 2, 0], 0))
  })
  it('are reached from a column by its stride and those of the others', () => {
    const [pairs] = targets.beside[0]!
    // Of (0, 1): the column itself counts by one, the other by its two values.
    expect([pairs!.others, pairs!.stride[0], pairs!.columns[0], pairs!.strides[0]]).to.deep.equal([1, 1, 1, 2])
    expect(targets.beside[0]!.map(({ others }) => others)).to.deep.equal([1, 2])
  })
})
