import { expect } from 'chai'
import fc from 'fast-check'
import { moved } from './place.ts'

describe('an order in which some are moved', () => {
  it('goes one place up or down, to either end, or before another', () => {
    const order = [1, 2, 3, 4, 5]
    expect(moved(order, [3], 'up')).to.deep.equal([1, 3, 2, 4, 5])
    expect(moved(order, [3], 'down')).to.deep.equal([1, 2, 4, 3, 5])
    expect(moved(order, [1], 'up')).to.deep.equal(order)
    expect(moved(order, [5], 'down')).to.deep.equal(order)
    expect(moved(order, [4, 2], 'first')).to.deep.equal([2, 4, 1, 3, 5])
    expect(moved(order, [1, 2], 'last')).to.deep.equal([3, 4, 5, 1, 2])
    expect(moved(order, [5], { before: 2 })).to.deep.equal([1, 5, 2, 3, 4])
    expect(moved(order, [1], { before: 99 })).to.deep.equal([2, 3, 4, 5, 1])
  })
  it('loses and doubles nothing, keeps the others as they stood, and puts the moved side by side', () => {
    const order = fc.uniqueArray(fc.nat(30), { minLength: 1, maxLength: 12 })
    fc.assert(
      fc.property(
        order.chain((all) => fc.tuple(fc.constant(all), fc.subarray(all, { minLength: 1 }))),
        fc.constantFrom('up', 'down', 'first', 'last'),
        ([all, some], way) => {
          const after = moved(all, some, way)
          expect([...after].sort()).to.deep.equal([...all].sort())
          const others = (of: readonly number[]) => of.filter((id) => !some.includes(id))
          expect(others(after)).to.deep.equal(others(all))
          const places = after.flatMap((id, at) => (some.includes(id) ? [at] : []))
          expect((places.at(-1) ?? 0) - (places[0] ?? 0)).to.equal(some.length - 1)
        },
      ),
    )
  })
})
