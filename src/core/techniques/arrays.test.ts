import { expect } from 'chai'
import { subsetsOf } from './targets.ts'
import { binaryPairs, binaryPairsSize, hadamardDesign, orthogonalArray, projectiveGroup, type Rows } from './arrays.ts'

const columnsOf = (rows: Rows): number[] => [...rows[0]!.keys()]

/** How often each tuple of t columns stands in the rows: the fewest and the most over all of them. */
function times(rows: Rows, strength: number, levels: number): { fewest: number; most: number } {
  let [fewest, most] = [Infinity, 0]
  for (const columns of subsetsOf(columnsOf(rows), strength)) {
    const counts = new Map<string, number>()
    for (const row of rows) {
      const tuple = columns.map((column) => row[column]).join()
      counts.set(tuple, (counts.get(tuple) ?? 0) + 1)
    }
    if (counts.size < levels ** strength) fewest = 0
    fewest = Math.min(fewest, ...counts.values())
    most = Math.max(most, ...counts.values())
  }
  return { fewest, most }
}

describe('orthogonal arrays', () => {
  for (const [q, strength, columns] of [
    [2, 2, 3],
    [3, 2, 4],
    [4, 2, 5],
    [5, 2, 6],
    [3, 3, 4],
    [4, 3, 6],
  ] as const)
    it(`of ${q} values hold every ${strength} of ${columns} columns exactly once`, () => {
      const rows = orthogonalArray(q, strength, columns)!
      expect(rows).to.have.length(q ** strength)
      expect(times(rows, strength, q)).to.deep.equal({ fewest: 1, most: 1 })
    })
  it('are none where no field has so many values, or too many columns are asked', () => {
    expect(orthogonalArray(6, 2, 3)).to.equal(null)
    expect(orthogonalArray(3, 2, 5)).to.equal(null)
    expect(orthogonalArray(3, 3, 5)).to.equal(null)
    expect(orthogonalArray(4, 3, 7)).to.equal(null)
  })
})

describe('pairs of two-valued columns', () => {
  it('are held by the known fewest rows', () => {
    expect([2, 3, 4, 10, 11, 35, 36].map(binaryPairsSize)).to.deep.equal([4, 4, 5, 6, 7, 8, 9])
  })
  for (const columns of [2, 3, 4, 10, 15])
    it(`of ${columns} columns are all there`, () => {
      const rows = binaryPairs(columns)
      expect(rows).to.have.length(binaryPairsSize(columns))
      expect(times(rows, 2, 2).fewest).to.be.at.least(1)
    })
})

describe('Hadamard designs', () => {
  for (const prime of [3, 7, 11])
    it(`of ${prime} columns hold every pair equally often`, () => {
      const rows = hadamardDesign(prime)
      expect(rows).to.have.length(prime + 1)
      const { fewest, most } = times(rows, 2, 2)
      expect([fewest, most]).to.deep.equal([(prime + 1) / 4, (prime + 1) / 4])
    })
  it('hold all triples from order 12 on', () => {
    for (const prime of [11, 19, 23]) expect(times(hadamardDesign(prime), 3, 2).fewest).to.be.at.least(1)
  })
})

describe('the projective group', () => {
  it('takes any three points to any three in exactly one way', () => {
    const group = projectiveGroup(3)!
    expect(group).to.have.length(4 * 3 * 2)
    const ways = new Set(group.map((permutation) => permutation.slice(0, 3).join()))
    expect(ways.size).to.equal(24)
    for (const permutation of group) expect([...permutation].sort()).to.deep.equal([0, 1, 2, 3])
  })
  it('is none where there is no field', () => {
    expect(projectiveGroup(6)).to.equal(null)
  })
})
