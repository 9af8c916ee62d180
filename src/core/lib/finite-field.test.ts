import { expect } from 'chai'
import { finiteField, primePower } from './finite-field.ts'

describe('prime powers', () => {
  it('are told with their prime and exponent', () => {
    expect(primePower(8)).to.deep.equal({ prime: 2, exponent: 3 })
    expect(primePower(49)).to.deep.equal({ prime: 7, exponent: 2 })
    expect(primePower(31)).to.deep.equal({ prime: 31, exponent: 1 })
  })
  it('are not all numbers', () => {
    for (const order of [0, 1, 6, 12, 2.5, -3]) expect(primePower(order)).to.equal(null)
  })
})

describe('finite fields', () => {
  for (const order of [2, 3, 4, 5, 7, 8, 9, 16, 25])
    it(`of ${order} elements keep the laws of arithmetic`, () => {
      const { sum, product } = finiteField(order)!
      const elements = [...Array(order).keys()]
      const [add, times] = [sum, product].map((table) => (a: number, b: number) => table[a * order + b]!)
      for (const a of elements) {
        expect([add!(a, 0), times!(a, 1), times!(a, 0)]).to.deep.equal([a, a, 0])
        expect(elements.filter((b) => add!(a, b) === 0)).to.have.length(1)
        expect(elements.filter((b) => times!(a, b) === 1)).to.have.length(a === 0 ? 0 : 1)
        for (const b of elements) {
          expect(add!(a, b)).to.equal(add!(b, a))
          expect(times!(a, b)).to.equal(times!(b, a))
          for (const c of elements.slice(0, 5)) {
            expect(times!(a, add!(b, c))).to.equal(add!(times!(a, b), times!(a, c)))
            expect(times!(a, times!(b, c))).to.equal(times!(times!(a, b), c))
          }
        }
      }
    })
  it('are none of other orders', () => {
    expect(finiteField(6)).to.equal(null)
    expect(finiteField(1)).to.equal(null)
  })
})
