import { expect } from 'chai'
import fc from 'fast-check'
import { type Block, Blocks } from './blocks.ts'

const shape = [
  [1, 1, 1],
  [1, 2],
  [1, 1, 1, 1],
] as const
const blocks = new Blocks(shape)
const values = fc.tuple(...shape.map((own) => fc.subarray([...own.keys()], { minLength: 1 })))
const anyBlock = values.map((chosen) => blocks.of(chosen))
/** All combinations a block holds, as text. */
const members = (block: Block): Set<string> => {
  let found: number[][] = [[]]
  for (let condition = 0; condition < blocks.conditions; condition++)
    found = found.flatMap((chosen) => blocks.values(block, condition).map((value) => [...chosen, value]))
  return new Set(found.map((each) => each.join()))
}

describe('blocks of combinations', () => {
  it('hold the values they are made of', () => {
    fc.assert(
      fc.property(values, (chosen) => {
        const block = blocks.of(chosen)
        expect(chosen).to.deep.equal(chosen.map((_, condition) => blocks.values(block, condition)))
      }),
    )
  })
  it('count a value for as many as it stands for', () => {
    expect(blocks.size(blocks.full)).to.equal(3 * 3 * 4)
    expect(blocks.size(blocks.of([[0], [1], [2, 3]]))).to.equal(1 * 2 * 2)
  })
  it('meet in what both hold, or not at all', () => {
    fc.assert(
      fc.property(anyBlock, anyBlock, (a, b) => {
        const both = [...members(a)].filter((each) => members(b).has(each))
        const met = blocks.meet(a, b)
        expect(met ? [...members(met)].sort() : []).to.deep.equal(both.sort())
      }),
    )
  })
  it('contain another when they hold all of it', () => {
    fc.assert(
      fc.property(anyBlock, anyBlock, (a, b) => {
        expect(blocks.contains(a, b)).to.equal([...members(b)].every((each) => members(a).has(each)))
      }),
    )
  })
  it('get one condition from another, and leave the rest', () => {
    const block = blocks.with(blocks.of([[0], [0], [1]]), 2, blocks.full)
    expect([0, 1, 2].map((condition) => blocks.values(block, condition))).to.deep.equal([[0], [0], [0, 1, 2, 3]])
  })
  it('know how many conditions do not matter', () => {
    expect(blocks.free(blocks.full)).to.equal(3)
    expect(blocks.free(blocks.of([[0, 1, 2], [0], [0, 1, 2, 3]]))).to.equal(2)
  })
  it('hold more than 32 values of a condition', () => {
    const wide = new Blocks([Array.from({ length: 70 }, () => 1), [1, 1]])
    const block = wide.of([[0, 31, 32, 63, 64, 69], [1]])
    expect(wide.values(block, 0)).to.deep.equal([0, 31, 32, 63, 64, 69])
    expect([wide.has(block, 0, 33), wide.size(block), wide.free(wide.full)]).to.deep.equal([false, 6, 2])
  })
})
