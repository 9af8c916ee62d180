import { expect } from 'chai'
import fc from 'fast-check'
import { type Block, Blocks } from './blocks.ts'
import { type Diagram, Diagrams } from './diagram.ts'

const shape = [
  [1, 1, 1],
  [1, 2],
  [1, 1, 1],
] as const
const blocks = new Blocks(shape)
const anyBlock = fc
  .tuple(...shape.map((own) => fc.subarray([...own.keys()], { minLength: 1 })))
  .map((chosen) => blocks.of(chosen))
const some = fc.array(anyBlock, { maxLength: 4 })

const all: number[][] = shape.reduce<number[][]>(
  (found, own) => found.flatMap((chosen) => [...own.keys()].map((value) => [...chosen, value])),
  [[]],
)
const holds = (block: Block, combination: readonly number[]): boolean =>
  combination.every((value, condition) => blocks.has(block, condition, value))
const inAny = (of: readonly Block[], combination: readonly number[]): boolean =>
  of.some((block) => holds(block, combination))
const weight = (combination: readonly number[]): number =>
  combination.reduce((product, value, condition) => product * shape[condition]![value]!, 1)
/** The combinations of a set, by asking for each. */
const members = (sets: Diagrams, set: Diagram): number[][] =>
  all.filter((each) => sets.covers(set, blocks.of(each.map((value) => [value]))))

describe('sets of combinations as diagrams', () => {
  it('are the union of blocks, and stand once however they are put together', () => {
    fc.assert(
      fc.property(some, (of) => {
        const sets = new Diagrams(blocks)
        expect(members(sets, sets.union(of))).to.deep.equal(all.filter((each) => inAny(of, each)))
        expect(sets.union([...of].reverse())).to.equal(sets.union(of))
      }),
    )
  })
  it('are taken from one another', () => {
    fc.assert(
      fc.property(some, some, (of, gone) => {
        const sets = new Diagrams(blocks)
        const left = sets.without(sets.union(of), sets.union(gone))
        expect(members(sets, left)).to.deep.equal(all.filter((each) => inAny(of, each) && !inAny(gone, each)))
      }),
    )
  })
  it('are counted in combinations of the person, not of their values alike', () => {
    fc.assert(
      fc.property(some, (of) => {
        const sets = new Diagrams(blocks)
        const wanted = all.filter((each) => inAny(of, each)).reduce((sum, each) => sum + weight(each), 0)
        expect(sets.count(sets.union(of))).to.equal(wanted)
      }),
    )
  })
  it('cover a block or name one combination they do not hold', () => {
    fc.assert(
      fc.property(some, anyBlock, (of, block) => {
        const sets = new Diagrams(blocks)
        const set = sets.union(of)
        const outside = sets.outside(set, block)
        expect(outside === null).to.equal(sets.covers(set, block))
        if (!outside) return
        expect(holds(block, outside)).to.equal(true)
        expect(inAny(of, outside)).to.equal(false)
      }),
    )
  })
  it('fall into parts that have nothing in common and leave nothing out', () => {
    fc.assert(
      fc.property(some, (of) => {
        const sets = new Diagrams(blocks)
        const parts = [...sets.parts(sets.union(of))]
        for (const each of all)
          expect(parts.filter((part) => holds(part, each))).to.have.length(inAny(of, each) ? 1 : 0)
      }),
    )
  })
  it('tell of each block what all the others hold', () => {
    fc.assert(
      fc.property(some, (of) => {
        const sets = new Diagrams(blocks)
        const others = sets.others(of)
        of.forEach((_, at) => expect(others[at]).to.equal(sets.union(of.toSpliced(at, 1))))
      }),
    )
  })
  it('find the idle blocks, so that the rest holds the same', () => {
    fc.assert(
      fc.property(some, some, (of, ignored) => {
        const sets = new Diagrams(blocks)
        const beside = sets.union(ignored)
        const idle = sets.idle(of, beside)
        const kept = of.filter((_, at) => !idle[at])
        expect(sets.either(sets.union(kept), beside)).to.equal(sets.either(sets.union(of), beside))
      }),
    )
  })
})
