import { expect } from 'chai'
import fc from 'fast-check'
import { numbersIn, recordIn, textsIn, valuesIn } from './json.ts'

describe('json in a column of text', () => {
  it('is read as what it was written from', () => {
    fc.assert(
      fc.property(fc.array(fc.string()), (texts) => {
        expect(textsIn(JSON.stringify(texts))).to.deep.equal(texts)
      }),
    )
    fc.assert(
      fc.property(fc.array(fc.integer()), (numbers) => {
        expect(numbersIn(JSON.stringify(numbers))).to.deep.equal(numbers)
      }),
    )
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.string()), (values) => {
        expect(JSON.stringify(valuesIn(JSON.stringify(values)))).to.equal(JSON.stringify(values))
      }),
    )
  })
  it('is empty where nothing was written', () => {
    expect(textsIn('')).to.deep.equal([])
    expect(numbersIn('')).to.deep.equal([])
    expect(valuesIn('')).to.deep.equal({})
  })
  for (const [what, read, json] of [
    ['a record where texts are wanted', textsIn, '{"a":"b"}'],
    ['a number among texts', textsIn, '["a",1]'],
    ['a text among numbers', numbersIn, '[1,"2"]'],
    ['a list where values by name are wanted', valuesIn, '["a"]'],
    ['a number among values', valuesIn, '{"age":12}'],
    ['nothing where a record is wanted', recordIn, 'null'],
  ] as const)
    it(`is refused with what it holds: ${what}`, () => {
      expect(() => read(json)).to.throw(`a column holds ${json}`)
    })
})
