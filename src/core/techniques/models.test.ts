import { expect } from 'chai'
import { Refusal } from '#core/lib/refusal.ts'
import { finiteField } from '#core/lib/finite-field.ts'
import { boundariesModel, combosModel, decisionsModel, doubledKey, pathsModel, readModel } from './models.ts'

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

describe('a model file', () => {
  const says = (shape: Parameters<typeof readModel>[0], json: string): string => {
    try {
      readModel(shape, json)
    } catch (error) {
      return error instanceof Error ? error.message : ''
    }
    return ''
  }
  for (const [what, shape, json, sentence] of [
    [
      'a part that is misspelt',
      combosModel,
      '{"parameters": {}, "constrains": []}',
      /there is no “constrains” here; the parts are parameters, strength/,
    ],
    [
      'a part of a part that is misspelt',
      boundariesModel,
      '{"inputs": {"age": {"type": "integer", "partition": []}}}',
      /inputs\.age\.partitions: is missing/,
    ],
    [
      'a rule that is misspelt',
      decisionsModel,
      '{"conditions": {"a": ["1"]}, "rules": [{"wen": {"a": "1"}}]}',
      /rules\[0\]: there is no “wen” here; the parts are when, then/,
    ],
    [
      'a step that is misspelt',
      pathsModel,
      '{"initial": "a", "transitions": [{"from": "a", "evnt": "e", "to": "b"}]}',
      /transitions\[0\]: there is no “evnt” here/,
    ],
    [
      'something else than a list',
      combosModel,
      '{"parameters": {"a": 4}}',
      /parameters\.a: must be a list in brackets/,
    ],
    ['no JSON', combosModel, 'not\njson', /^This is no JSON: [^\n]+\.$/],
  ] as const)
    it(`names ${what}, in words of people`, () => {
      const told = says(shape, json)
      expect(told).to.match(sentence)
      expect(told).not.to.match(/Invalid input|expected .*received/)
    })
  it('lets people call things as they like', () => {
    const json = '{"parameters": {"__proto__": ["1", "2"], "constructor": ["x"], "toString": ["p"]}}'
    const { parameters, negative } = readModel(combosModel, json)
    expect(Object.keys(parameters)).to.deep.equal(['__proto__', 'constructor', 'toString'])
    expect([parameters['__proto__'], negative['constructor'], negative['toString']]).to.deep.equal([
      ['1', '2'],
      undefined,
      undefined,
    ])
    const { rules } = readModel(
      decisionsModel,
      '{"conditions": {"__proto__": ["y", "n"]}, "rules": [{"when": {"__proto__": "y"}, "then": {"__proto__": "half"}}]}',
    )
    expect([rules[0]?.when['__proto__'], rules[0]?.then['__proto__']]).to.deep.equal([['y'], 'half'])
  })
})
