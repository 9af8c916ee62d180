import { expect } from 'chai'
import fc from 'fast-check'
import { Refusal } from '#core/lib/refusal.ts'
import { boundaries, type BoundariesAnswer } from './boundaries.ts'
import { type BoundariesModel, boundariesModel, checkModel } from './models.ts'
import { inputs } from '../../../test/models.ts'

const derive = (model: unknown): BoundariesAnswer => boundaries(checkModel(boundariesModel, model))
const age = {
  type: 'integer',
  partitions: [
    { name: 'infant', from: 0, to: 3 },
    { name: 'child', from: 4, to: 15 },
    { name: 'too old', from: 16, valid: false },
  ],
}
const valuesOf = (answer: BoundariesAnswer, input: string): unknown[] =>
  answer.cases.filter((each) => each.input === input).map(({ value }) => value)

describe('partitions and boundaries', () => {
  it('give both sides of every edge, and one step further in when asked for three values', () => {
    expect(valuesOf(derive({ inputs: { age } }), 'age')).to.deep.equal([-1, 0, 3, 4, 15, 16])
    expect(valuesOf(derive({ inputs: { age }, values: 3 }), 'age')).to.deep.equal([
      -1, 0, 1, 2, 3, 4, 5, 14, 15, 16, 17,
    ])
    const below = derive({ inputs: { age } }).cases[0]!
    expect([below.partition, below.valid, below.why]).to.deep.equal([
      null,
      false,
      'just below infant, outside all partitions',
    ])
  })

  it('count decimals in steps, so that no binary dust appears', () => {
    const answer = derive({
      inputs: {
        metres: {
          type: 'decimal',
          step: 0.1,
          partitions: [
            { name: 'short', from: 0.1, to: 4.5 },
            { name: 'long', from: 4.6, to: 6 },
          ],
        },
      },
    })
    expect(valuesOf(answer, 'metres')).to.deep.equal([0, 0.1, 4.5, 4.6, 6, 6.1])
    expect(answer.gaps).to.deep.equal([])
  })

  it('step over ends of months and leap days, and skip lengths below nothing', () => {
    expect(
      valuesOf(
        derive({
          inputs: {
            sailing: {
              type: 'date',
              partitions: [
                { name: 'winter', from: '2027-12-01', to: '2028-02-28' },
                { name: 'spring', from: '2028-03-01', to: '2028-05-31' },
              ],
            },
          },
        }),
        'sailing',
      ),
    ).to.deep.equal(['2027-11-30', '2027-12-01', '2028-02-28', '2028-02-29', '2028-03-01', '2028-05-31', '2028-06-01'])
    expect(
      valuesOf(
        derive({
          inputs: {
            name: {
              type: 'length',
              partitions: [
                { name: 'ok', to: 40 },
                { name: 'long', from: 41, valid: false },
              ],
            },
          },
        }),
        'name',
      ),
    ).to.deep.equal([0, 40, 41])
  })

  it('find gaps and overlaps', () => {
    const answer = derive({
      inputs: {
        n: {
          type: 'integer',
          partitions: [
            { name: 'a', from: 1, to: 5 },
            { name: 'b', from: 4, to: 8 },
            { name: 'c', from: 11, to: 12 },
          ],
        },
      },
    })
    expect(answer.gaps).to.deep.equal([{ input: 'n', from: 9, to: 10 }])
    expect(answer.overlaps).to.deep.equal([{ input: 'n', from: 4, to: 5, partitions: ['a', 'b'] }])
  })

  it('take every value of a set, and tell one that stands in two partitions', () => {
    const answer = derive({
      inputs: {
        language: {
          type: 'set',
          partitions: [
            { name: 'offered', values: ['Ovian', 'Skerric'] },
            { name: 'other', values: ['Tarn', 'Ovian'], valid: false },
          ],
        },
      },
    })
    expect(answer.cases.map(({ value, valid }) => [value, valid])).to.deep.equal([
      ['Ovian', true],
      ['Skerric', true],
      ['Tarn', false],
    ])
    expect(answer.overlaps).to.have.length(1)
  })

  it('combine inputs so that every valid value stands in a row and every invalid one alone', () => {
    fc.assert(
      fc.property(fc.array(inputs, { minLength: 1, maxLength: 4 }), fc.constantFrom(2, 3), (given, values) => {
        const model = { inputs: Object.fromEntries(given.map((each, at) => [`i${at}`, each])), values }
        const { cases, rows } = derive(model)
        const isValid = (name: string, value: unknown): boolean =>
          cases.some((each) => each.input === name && each.value === value && each.valid)
        for (const row of rows) {
          const invalid = Object.keys(model.inputs).filter((name) => !isValid(name, row[name]))
          expect(invalid).to.deep.equal(row['invalid'] === null ? [] : [row['invalid']])
        }
        for (const each of cases)
          expect(
            rows.some(
              (row) =>
                row[each.input] === each.value &&
                (each.valid ? row['invalid'] === null : row['invalid'] === each.input),
            ),
          ).to.equal(true)
        expect(rows).to.have.length(
          Math.max(
            ...Object.keys(model.inputs).map(
              (name) => cases.filter((each) => each.input === name && each.valid).length,
            ),
          ) + cases.filter(({ valid }) => !valid).length,
        )
        for (const each of cases) {
          const home = model.inputs[each.input]!.partitions.find(
            ({ from, to }) => from <= Number(each.value) && Number(each.value) <= to,
          )
          expect(each.partition).to.equal(home?.name ?? null)
        }
      }),
      { numRuns: 300, seed: 2 },
    )
  })

  const bad: readonly (readonly [why: string, input: Partial<BoundariesModel['inputs'][string]>, place: string])[] = [
    ['no partitions', { type: 'integer', partitions: [] }, 'inputs.x.partitions'],
    [
      'a decimal without a step',
      { type: 'decimal', partitions: [{ name: 'a', from: 1, valid: true }] },
      'inputs.x.step',
    ],
    [
      'an end before its beginning',
      { type: 'integer', partitions: [{ name: 'a', from: 9, to: 3, valid: true }] },
      'inputs.x.partitions[0]',
    ],
    [
      'no such day',
      { type: 'date', partitions: [{ name: 'a', from: '2026-02-30', valid: true }] },
      'inputs.x.partitions[0].from',
    ],
    [
      'words for a number',
      { type: 'integer', partitions: [{ name: 'a', from: 'many', valid: true }] },
      'inputs.x.partitions[0].from',
    ],
    [
      'a negative length',
      { type: 'length', partitions: [{ name: 'a', from: -2, valid: true }] },
      'inputs.x.partitions[0].from',
    ],
    [
      'two partitions of one name',
      {
        type: 'integer',
        partitions: [
          { name: 'a', from: 1, to: 2, valid: true },
          { name: 'a', from: 3, valid: true },
        ],
      },
      'inputs.x.partitions[1].name',
    ],
    ['nothing valid', { type: 'integer', partitions: [{ name: 'a', from: 1, valid: false }] }, 'inputs.x.partitions'],
    [
      'a set without values',
      { type: 'set', partitions: [{ name: 'a', valid: true }] },
      'inputs.x.partitions[0].values',
    ],
  ]
  for (const [why, input, place] of bad)
    it(`refuse ${why} at its place`, () =>
      expect(() => derive({ inputs: { x: input } }))
        .to.throw(Refusal)
        .with.nested.property('detail.fields[0].field', place))

  it('refuse a model without inputs', () => expect(() => derive({ inputs: {} })).to.throw('no inputs yet'))
})

it('refuses decimals too fine to be told apart, and never breaks over them', () => {
  const model = (step: number): BoundariesModel => ({
    inputs: { dose: { type: 'decimal', step, partitions: [{ name: 'some', from: 0, to: step, valid: true }] } },
    values: 2,
  })
  for (const step of [1e-16, 1e-101, 5e-324]) expect(() => boundaries(model(step)), String(step)).to.throw(Refusal)
  expect(boundaries(model(1e-15)).cases.length).to.be.greaterThan(0)
})
