import { expect } from 'chai'
import { createModel, acceptRows, deleteModel } from '#core/techniques/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { idOf, makeRequirements } from '#test/make.ts'
import { type Targets, targetsByCase, targetsOf, unitsOf } from './units.ts'

const ages = (partitions: { name: string; from: number; to: number; valid: boolean }[]) => ({
  technique: 'boundaries' as const,
  body: { inputs: { age: { type: 'integer' as const, partitions } }, values: 2 as const },
})
const adult = ages([{ name: 'adult', from: 16, to: 64, valid: true }])

describe('what proves a requirement', () => {
  const targets = (over: Partial<Targets> = {}): Targets => ({
    all: 10,
    answered: 6,
    by: [
      { owners: [1], targets: 3 },
      { owners: [1, 2], targets: 2 },
      { owners: [3], targets: 1 },
    ],
    ...over,
  })

  it('are its cases where it has no model', () => {
    expect(unitsOf([4, 5], undefined)).to.deep.equal({
      units: [
        { cases: [4], n: 1 },
        { cases: [5], n: 1 },
      ],
      targets: null,
    })
  })

  it('are its drafting targets, by those of the cases that still prove it', () => {
    expect(unitsOf([1, 2], targets())).to.deep.equal({
      units: [
        { cases: [1], n: 3 },
        { cases: [1, 2], n: 2 },
        { cases: [], n: 1 },
      ],
      targets: 10,
    })
  })

  it('are its cases by the part that is answered where targets are too many to be told apart', () => {
    expect(unitsOf([1, 2, 3], targets({ by: null }))).to.deep.equal({
      units: [1, 2, 3].map((each) => ({ cases: [each], n: 2 })),
      targets: 10,
    })
    expect(targetsByCase(new Map([[7, targets({ by: null })]]), () => [1, 2])).to.deep.equal(new Map())
  })

  it('counts for each case what it answers of all requirements it proves', () => {
    const all = new Map([
      [7, targets()],
      [8, targets({ by: [{ owners: [2], targets: 4 }] })],
    ])
    expect(targetsByCase(all, (id) => (id === 7 ? [1, 2, 3] : [9]))).to.deep.equal(
      new Map([
        [1, 5],
        [2, 2],
        [3, 1],
      ]),
    )
  })
})

describe('drafting targets of a requirement', () => {
  let of: Shop
  let ref: string
  beforeEach(async () => {
    of = shop()
    ;[ref = ''] = await makeRequirements(of.tester, 'Adults pay')
  })
  const model = async (name: string, body: typeof adult) =>
    (await of.tester.ask(createModel, { params: { ref }, body: { name, model: body } })).id
  const accept = async (id: number, ...values: string[]) => {
    const rows = values.map((age) => ({ row: { age }, title: `Age ${age}`, steps: [] }))
    const { keys } = await of.tester.ask(acceptRows, { params: { id }, body: { as: 'cases', rows, revision: 1 } })
    return Promise.all(keys.map((key) => idOf(of.tester, key)))
  }
  const told = () => [...targetsOf(of.db, of.project().id).values()]

  it('are those of all its models together, with the case that answers each', async () => {
    const [first] = await accept(await model('Ages', adult), '16')
    const children = await model('Children', ages([{ name: 'child', from: 4, to: 15, valid: true }]))
    const [second] = await accept(children, '4')
    expect(told()).to.deep.equal([
      {
        all: 8,
        answered: 2,
        by: [
          { owners: [first], targets: 1 },
          { owners: [second], targets: 1 },
        ],
      },
    ])
    await of.tester.ask(deleteModel, { params: { id: children } })
    expect(told().map(({ all, answered }) => [all, answered])).to.deep.equal([[4, 1]])
  })

  it('are none of a model that cannot be measured as it stands', async () => {
    await model('Nothing yet', ages([]))
    expect(told()).to.deep.equal([])
  })
})
