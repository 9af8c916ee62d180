import { expect } from 'chai'
import fc from 'fast-check'
import { bare } from './bare.ts'
import { commaList } from './comma-list.ts'
import { definedOf } from './defined.ts'
import { groupBy } from './group.ts'
import { inOrder } from './in-order.ts'
import { lower } from './lower.ts'
import { between, pick, seeded } from './random.ts'

describe('groups', () => {
  it('hold everything once, each in the order it came', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(5)), (numbers) => {
        const groups = groupBy(numbers, (each) => each % 3)
        expect([...groups.values()].flat().sort()).to.deep.equal([...numbers].sort())
        for (const [key, own] of groups) expect(own).to.deep.equal(numbers.filter((each) => each % 3 === key))
      }),
    )
  })
})

describe('rows in the order of ids', () => {
  it('are passed over where there is none, and stand twice where they are asked twice', () => {
    expect(inOrder([3, 1, 9, 3], [{ id: 1 }, { id: 2 }, { id: 3 }]).map(({ id }) => id)).to.deep.equal([3, 1, 3])
  })
})

describe('records', () => {
  it('lose what is undefined, and nothing else', () => {
    expect(definedOf({ a: undefined, b: null, c: '', d: 0 })).to.deep.equal({ b: null, c: '', d: 0 })
    expect('a' in definedOf({ a: undefined })).to.equal(false)
  })
  it('may have any name, also those every object has', () => {
    const of = bare({ constructor: 'x' })
    expect(of['constructor']).to.equal('x')
    expect(bare()['toString']).to.equal(undefined)
    expect('__proto__' in bare()).to.equal(false)
  })
})

describe('chance', () => {
  it('is the same for the same seed, and another for another', () => {
    const three = (seed: number) => {
      const random = seeded(seed)
      return [random(), random(), random()]
    }
    expect(three(7)).to.deep.equal(three(7))
    expect(three(7)).to.not.deep.equal(three(8))
    for (const each of three(7)) expect(each).to.be.within(0, 1)
  })
  it('picks what is there, and numbers with both ends', () => {
    const random = seeded(1)
    const drawn = Array.from({ length: 300 }, () => between(random, 2, 4))
    expect([...new Set(drawn)].sort()).to.deep.equal([2, 3, 4])
    expect(['a', 'b']).to.include(pick(random, ['a', 'b']))
  })
})

describe('what stands between commas', () => {
  it('is read without the white space round it, and nothing where nothing stands', () => {
    expect(commaList(' card, , night bus ,,')).to.deep.equal(['card', 'night bus'])
    expect(commaList(' ')).to.deep.equal([])
  })
})

describe('words within a sentence', () => {
  it('begin small', () => {
    expect(lower('Ready to retest')).to.equal('ready to retest')
  })
})
