import { expect } from 'chai'
import fc from 'fast-check'
import { type Block, Blocks } from './blocks.ts'
import { Diagrams } from './diagram.ts'
import { fewestBlocks } from './merge-rules.ts'

const shape = [
  [1, 1],
  [1, 1, 1],
  [1, 1],
] as const
const blocks = new Blocks(shape)
const anyBlock = fc
  .tuple(...shape.map((own) => fc.subarray([...own.keys()], { minLength: 1 })))
  .map((chosen) => blocks.of(chosen))
const some = (least: number) => fc.array(anyBlock, { minLength: least, maxLength: 5 })

describe('the fewest blocks that say the same', () => {
  it('join what differs in one condition only', () => {
    const sets = new Diagrams(blocks)
    const merged = fewestBlocks(sets, [blocks.of([[0], [0], [0]]), blocks.of([[1], [0], [0]])], [])
    expect(merged.map((block) => block.join())).to.deep.equal([blocks.of([[0, 1], [0], [0]]).join()])
  })
  it('reach into what is impossible where that makes them fewer', () => {
    const sets = new Diagrams(blocks)
    const on = [blocks.of([[0], [0], [0, 1]]), blocks.of([[0], [1], [0, 1]])]
    expect(fewestBlocks(sets, on, [blocks.of([[0], [2], [0, 1]])])).to.have.length(1)
  })
  it('hold all that was held, and nothing but that and what is ignored', () => {
    fc.assert(
      fc.property(some(1), some(0), (on, ignored) => {
        const sets = new Diagrams(blocks)
        const merged = sets.union(fewestBlocks(sets, on, ignored))
        const [held, free] = [sets.union(on), sets.union(ignored)]
        expect(sets.without(sets.without(held, free), merged)).to.equal(0)
        expect(sets.without(merged, sets.either(held, free))).to.equal(0)
      }),
    )
  })
  it('are never more than there were', () => {
    fc.assert(
      fc.property(some(1), (on) => {
        const sets = new Diagrams(blocks)
        expect(fewestBlocks(sets, on, []).length).to.be.at.most(on.length)
      }),
    )
  })
  it('are the fewest there can be, where all ways can be tried', () => {
    const single = (code: number): Block => blocks.of([[code & 1], [(code >> 1) % 3], [Math.floor(code / 6) & 1]])
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(11), { minLength: 1, maxLength: 5 }), (codes) => {
        const sets = new Diagrams(blocks)
        const on = codes.map(single)
        const merged = fewestBlocks(sets, on, [])
        // One block fewer cannot hold as many: every block inside the set, tried in all choices of that size.
        const inside = allBlocks().filter((block) => sets.covers(sets.union(on), block))
        expect(holdable(sets, inside, sets.union(on), merged.length - 1)).to.equal(false)
      }),
      { numRuns: 30 },
    )
  })
  it('are found by widening where the exact way would take too long', () => {
    const wide = new Blocks(Array.from({ length: 14 }, () => [1, 1]))
    const sets = new Diagrams(wide)
    const yes = (condition: number): Block =>
      wide.of(Array.from({ length: 14 }, (_, at) => (at === condition ? [1] : [0, 1])))
    const on = [...Array(14).keys()].map(yes)
    const merged = fewestBlocks(sets, on, [])
    expect(sets.union(merged)).to.equal(sets.union(on))
    expect(merged.length).to.be.at.most(14)
  })
})

const subsets = (of: readonly number[]): number[][] =>
  of.reduce<number[][]>((found, each) => [...found, ...found.map((own) => [...own, each])], [[]]).slice(1)
const allBlocks = (): Block[] =>
  shape
    .reduce<number[][][]>(
      (found, own) => found.flatMap((chosen) => subsets([...own.keys()]).map((values) => [...chosen, values])),
      [[]],
    )
    .map((chosen) => blocks.of(chosen))

function holdable(sets: Diagrams, from: readonly Block[], all: number, count: number): boolean {
  if (all === 0) return true
  if (count === 0) return false
  return from.some((block, at) => holdable(sets, from.slice(at + 1), sets.without(all, sets.of(block)), count - 1))
}
