import { expect } from 'chai'
import { Refusal } from '#core/lib/refusal.ts'
import { finiteField } from '#core/lib/finite-field.ts'
import { combosModel, doubledKey, readModel } from './models.ts'

describe('reading a model', () => {
  it('names the place of a name that stands twice, which a parser would lose in silence', () => {
    expect(doubledKey('{"parameters": {"a": ["x"], "b": [{"a": 1}], "a": ["y"]}}')).to.equal('parameters.a')
    expect(doubledKey('[{"a": 1}, {"b": {"c": 1, "\\u0063": 2}}]')).to.equal('[1].b.c')
    expect(doubledKey('{"a": "{\\"b\\": 1, \\"b\\": 2}", "c": ["a", "a"]}')).to.equal(null)
    expect(() => readModel(combosModel, '{"parameters": {"a": ["x"], "a": ["y"]}}')).to.throw(Refusal, 'parameters.a')
  })

  it('says where a model is not as it should be', () => {
    expect(() => readModel(combosModel, '{"parameters": {"a": "x"}}')).to.throw('parameters.a')
    expect(() => readModel(combosModel, '{"parameters": {"a": ["x"]}, "strength": 9}')).to.throw('strength')
    expect(() => readModel(combosModel, '{')).to.throw('no JSON')
  })

  it('takes numbers as values and single values for lists', () => {
    expect(
      readModel(combosModel, '{"parameters": {"n": [1, 2.5, true]}, "constraints": [{"forbid": {"n": 1}}]}'),
    ).to.deep.include({ parameters: { n: ['1', '2.5', 'true'] }, constraints: [{ forbid: { n: ['1'] } }] })
  })
})

describe('finite fields', () => {
  for (const order of [2, 3, 4, 5, 7, 8, 9, 16, 25, 27])
    it(`GF(${order}) keeps the laws`, () => {
      const { sum, product } = finiteField(order)!
      for (let a = 0; a < order; a++)
        for (let b = 0; b < order; b++) {
          expect(product[a * order + b]).to.equal(product[b * order + a])
          for (let c = 0; c < order; c += 3)
            expect(product[a * order + sum[b * order + c]!]).to.equal(
              sum[product[a * order + b]! * order + product[a * order + c]!],
            )
        }
      for (let a = 1; a < order; a++) expect(new Set(product.slice(a * order, (a + 1) * order)).size).to.equal(order)
    })
  it('there is none of other orders', () =>
    expect([6, 10, 12, 1].map(finiteField)).to.deep.equal([null, null, null, null]))
})
