import { expect } from 'chai'
import { seeded } from '#core/lib/random.ts'
import type { Rows } from './arrays.ts'
import { constructions } from './constructions.ts'
import { Cover } from './cover.ts'
import { subsetsOf, Targets } from './targets.ts'

const rowsFor = (sizes: readonly number[], strength: number, moves = 200_000): Rows[] => {
  const levels = Int32Array.from(sizes)
  return constructions({ levels, strength, random: seeded(1), moves }).flatMap((steps) => {
    let step = steps.next()
    while (!step.done) step = steps.next()
    return step.value ? [step.value] : []
  })
}
/** What rows leave open; cells of a larger array than the columns have values for count as open. */
const openIn = (rows: Rows, sizes: readonly number[], strength: number): number => {
  const levels = Int32Array.from(sizes)
  const cover = new Cover(new Targets(levels, subsetsOf([...levels.keys()], strength)))
  for (const row of rows) cover.add(row.map((value, column) => (value < levels[column]! ? value : -1)))
  return cover.open
}
const many = (count: number, level: number): number[] => Array.from({ length: count }, () => level)

describe('constructions of covering arrays', () => {
  for (const [what, sizes, strength, fewest] of [
    ['pairs of ten two-valued columns', many(10, 2), 2, 6],
    ['pairs of four three-valued columns', many(4, 3), 2, 9],
    ['triples of eleven two-valued columns', many(11, 2), 3, 12],
    ['triples of six four-valued columns', many(6, 4), 3, 64],
  ] as const)
    it(`hold ${what} in ${fewest} rows`, () => {
      const full = rowsFor(sizes, strength).filter((rows) => openIn(rows, sizes, strength) === 0)
      expect(Math.min(...full.map(({ length }) => length))).to.equal(fewest)
    })
  it('give all columns their values where these are as many, whichever of them is taken', () => {
    for (const rows of rowsFor(many(13, 3), 2)) {
      expect(rows.every(({ length }) => length === 13)).to.equal(true)
      expect(rows.flat().every((value) => value >= -1 && value < 4)).to.equal(true)
    }
  })
  it('hold many columns in few rows by blocks', () => {
    const full = rowsFor(many(13, 3), 2, 1_000_000).filter((rows) => openIn(rows, many(13, 3), 2) === 0)
    expect(Math.min(...full.map(({ length }) => length))).to.be.at.most(18)
  })
  it('fit columns of different sizes, with cells left open where a value is not there', () => {
    const sizes = [5, 4, 4, 3, 3, 2]
    const open = rowsFor(sizes, 2).map((rows) => openIn(rows, sizes, 2))
    expect(Math.min(...open)).to.equal(0)
  })
  it('are none for columns with more values than the largest field', () => {
    expect(rowsFor(many(3, 40), 2)).to.deep.equal([])
  })
})
