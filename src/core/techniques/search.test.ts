import { expect } from 'chai'
import { seeded } from '#core/lib/random.ts'
import { type Budget, Cover } from './cover.ts'
import { addRows, dropIdle, fillRow, repair, shrink } from './search.ts'
import { Solver } from './solver.ts'
import { subsetsOf, Targets } from './targets.ts'

const levels = Int32Array.of(3, 3, 3, 3, 3)
const targets = new Targets(levels, subsetsOf([0, 1, 2, 3, 4], 2))
const fillingOf = (cover: Cover, solver: Solver | null = null, seed = 1) => ({
  cover,
  random: seeded(seed),
  solver,
  weights: [],
  ordinary: levels,
})
const budget = (moves: number, of: Partial<Budget> = {}): Budget => ({
  random: seeded(2),
  solver: null,
  keep: 0,
  moves,
  ...of,
})
const through = <T, R>(steps: Generator<T, R>): R => {
  let step = steps.next()
  while (!step.done) step = steps.next()
  return step.value
}
/** The first column's 2 never stands with the second's 2. */
const rule = {
  rule: 0,
  literals: [
    { column: 0, holds: Uint8Array.of(0, 0, 1) },
    { column: 1, holds: Uint8Array.of(0, 0, 1) },
  ],
}

function filled(seed = 1): Cover {
  const cover = new Cover(targets)
  through(addRows(fillingOf(cover, null, seed), 2))
  return cover
}

describe('a greedy row', () => {
  it('leaves what is given and fills the rest', () => {
    const cover = new Cover(targets)
    cover.add([2, -1, 1, -1, -1])
    expect(fillRow(fillingOf(cover), 0)).to.equal(true)
    const row = cover.row(0)
    expect([row[0], row[2]]).to.deep.equal([2, 1])
    expect(row.every((value) => value >= 0)).to.equal(true)
  })
  it('holds more than chance: the first two rows have no pair in common', () => {
    const cover = new Cover(targets)
    for (const row of [0, 1]) {
      cover.add(new Int32Array(5).fill(-1))
      fillRow(fillingOf(cover), row)
    }
    expect(cover.open).to.equal(targets.size - 20)
  })
  it('keeps the rules, and says when it cannot', () => {
    const cover = new Cover(targets)
    cover.add([2, -1, -1, -1, -1])
    expect(fillRow(fillingOf(cover, new Solver(levels, [rule])), 0)).to.equal(true)
    expect(cover.cell(0, 1)).to.not.equal(2)
    const broken = new Cover(targets)
    broken.add([2, 2, -1, -1, -1])
    expect(fillRow(fillingOf(broken, new Solver(levels, [rule])), 0)).to.equal(false)
  })
  it('takes the heavier of values that hold the same', () => {
    const cover = new Cover(targets)
    cover.add(new Int32Array(5).fill(-1))
    const weights = Array.from({ length: 5 }, () => [1, 9, 1])
    fillRow({ ...fillingOf(cover), weights }, 0)
    expect(cover.row(0)).to.deep.equal([1, 1, 1, 1, 1])
  })
})

describe('rows that are added', () => {
  it('hold every tuple in the end', () => {
    const cover = filled()
    expect(cover.open).to.equal(0)
    expect(cover.rows).to.be.within(11, 18)
  })
  it('are refused for what no row can hold', () => {
    const cover = new Cover(targets)
    expect(() => through(addRows(fillingOf(cover, new Solver(levels, [rule])), 1))).to.throw('no row can hold')
  })
})

describe('rows that are taken away', () => {
  it('are the idle ones, but never those that are kept', () => {
    const cover = filled()
    const { rows } = cover
    cover.add(cover.row(0))
    cover.add(cover.row(1))
    dropIdle(cover, 0)
    expect(cover.rows).to.be.at.most(rows)
    expect(cover.open).to.equal(0)
    const kept = filled()
    kept.add(kept.row(0))
    dropIdle(kept, kept.rows)
    expect(kept.rows).to.equal(rows + 1)
  })
  it('open tuples that moving cells brings back', () => {
    const cover = filled()
    cover.remove(cover.rows - 1)
    expect(cover.open).to.be.greaterThan(0)
    expect(through(repair(cover, budget(200_000), 200_000))).to.equal(true)
    expect(cover.open).to.equal(0)
  })
  it('are given back when the moves are spent', () => {
    const cover = new Cover(targets)
    cover.add([0, 0, 0, 0, 0])
    expect(through(repair(cover, budget(50), 50))).to.equal(false)
    expect(cover.open).to.be.greaterThan(0)
  })
  it('make a cover smaller until the least is reached, and it is full at the end', () => {
    const cover = filled()
    const { rows } = cover
    let better = 0
    for (const step of shrink(cover, budget(2_000_000), 11, 500_000)) if (step.better) better += 1
    expect(cover.open).to.equal(0)
    expect(cover.rows).to.equal(rows - better)
    expect(cover.rows).to.be.within(11, 13)
  })
  it('leave fixed cells and kept rows as they are', () => {
    const cover = new Cover(targets)
    cover.add([1, 1, 1, 1, 1], [true, true, true, true, true])
    through(addRows(fillingOf(cover), 2))
    through(shrink(cover, budget(300_000, { keep: 1 }), 11, 100_000))
    expect(cover.row(0)).to.deep.equal([1, 1, 1, 1, 1])
    expect(cover.open).to.equal(0)
  })
})
