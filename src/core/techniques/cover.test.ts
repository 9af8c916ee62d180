import { expect } from 'chai'
import fc from 'fast-check'
import { seeded } from '#core/lib/random.ts'
import { Cover } from './cover.ts'
import { subsetsOf, Targets } from './targets.ts'

const levels = Int32Array.of(2, 3, 2)
const targets = new Targets(levels, subsetsOf([0, 1, 2], 2))
const anyRow = fc.tuple(...[...levels].map((level) => fc.integer({ min: -1, max: level - 1 })))
const anyCell = fc.record({ row: fc.nat(5), column: fc.nat(2), value: fc.nat(2) })

/** What is open, by counting from the rows alone. */
function openIn(cover: Cover): number {
  const held = new Set<number>()
  for (let row = 0; row < cover.rows; row++)
    targets.subsets.forEach((_, subset) => held.add(targets.tupleIn(cover.row(row), subset)))
  held.delete(-1)
  return targets.size - held.size
}

describe('a cover', () => {
  it('begins with all open, and a full row holds a tuple of each subset', () => {
    const cover = new Cover(targets)
    expect(cover.open).to.equal(targets.size)
    cover.add([0, 1, 0])
    expect(cover.open).to.equal(targets.size - 3)
  })
  it('counts what is open through every row added, changed and taken away', () => {
    fc.assert(
      fc.property(fc.array(anyRow, { minLength: 1, maxLength: 6 }), fc.array(anyCell), (rows, cells) => {
        const cover = new Cover(targets)
        for (const row of rows) cover.add(row)
        for (const { row, column, value } of cells)
          if (row < cover.rows && value < levels[column]!) cover.set(row, column, value)
        expect(cover.open).to.equal(openIn(cover))
        cover.remove(0)
        expect(cover.open).to.equal(openIn(cover))
      }),
    )
  })
  it('tells before a change what it would win', () => {
    fc.assert(
      fc.property(fc.array(anyRow, { minLength: 2, maxLength: 5 }), anyCell, (rows, { row, column, value }) => {
        const cover = new Cover(targets)
        for (const each of rows) cover.add(each)
        if (row >= cover.rows || value >= levels[column]! || cover.cell(row, column) < 0) return
        const [gain, before] = [cover.gain(row, column, value), cover.open]
        cover.set(row, column, value)
        expect(before - cover.open).to.equal(cover.cell(row, column) === rows[row]![column] ? 0 : gain)
      }),
    )
  })
  it('tells what each value would newly hold in an open cell', () => {
    const cover = new Cover(targets)
    cover.add([0, 0, 0])
    cover.add([0, -1, 1])
    const gains = new Int32Array(3)
    cover.gains(1, 1, gains)
    // (0, 0) is held by the first row; (0, 1), (0, 2) and all with the third column's 1 are not.
    expect([...gains]).to.deep.equal([1, 2, 2])
  })
  it('knows what only one row holds', () => {
    const cover = new Cover(targets)
    cover.add([0, 0, 0])
    cover.add([0, 0, 1])
    expect([cover.loss(0), cover.loss(1)]).to.deep.equal([2, 2])
    cover.add([0, 0, 0])
    expect([cover.loss(0), cover.loss(2)]).to.deep.equal([0, 0])
  })
  it('is asked for required tuples only', () => {
    const required = new Uint8Array(targets.size)
    required[targets.tupleIn([1, 2, -1], 0)] = 1
    const cover = new Cover(targets, required)
    expect(cover.open).to.equal(1)
    expect(cover.anyOpen(seeded(1))).to.equal(targets.tupleIn([1, 2, -1], 0))
    cover.add([0, 0, 0])
    expect(cover.open).to.equal(1)
    cover.add([1, 2, 0])
    expect(cover.open).to.equal(0)
  })
  it('returns to where it was, fixed cells too, and grows past its first room', () => {
    const cover = new Cover(targets)
    cover.add([0, 1, -1], [true, false, false])
    const kept = cover.snapshot()
    for (let at = 0; at < 40; at++) cover.add([1, at % 3, at % 2])
    expect(cover.rows).to.equal(41)
    cover.restore(kept)
    expect([cover.rows, cover.row(0), cover.isFixed(0, 0), cover.isFixed(0, 1)]).to.deep.equal([
      1,
      [0, 1, -1],
      true,
      false,
    ])
    expect(cover.open).to.equal(openIn(cover))
  })
})
