import { expect } from 'chai'
import { combosProblem } from './combos-model.ts'
import { survey } from './combos-survey.ts'
import { heldBy, ownersOfTuples, tuplesAdded } from './held-tuples.ts'
import { checkModel, combosModel } from './models.ts'

const problem = combosProblem(
  checkModel(combosModel, {
    parameters: { device: ['phone', 'desk'], age: ['child', 'adult'], pay: ['card', 'cash'] },
    negative: { age: ['minus one'] },
    constraints: [{ forbid: { device: ['phone'], pay: ['cash'] } }],
  }),
)

describe('what given rows hold', () => {
  it('is counted without the tuples the rules forbid, with every negative value as one more', () => {
    expect(heldBy(problem, survey(problem, [])).targets).to.equal(12 - 1 + 1)
  })
  it('counts each pair once, however many rows have it', () => {
    const row = { device: 'desk', age: 'child', pay: 'cash' }
    expect(heldBy(problem, survey(problem, [row])).answered).to.equal(3)
    expect(heldBy(problem, survey(problem, [row, row])).answered).to.equal(3)
    expect(heldBy(problem, survey(problem, [row, { ...row, age: 'adult' }])).answered).to.equal(5)
  })
  it('counts a negative value that stands in a row', () => {
    const negative = { device: 'desk', age: 'minus one', pay: 'card' }
    expect(heldBy(problem, survey(problem, [negative])).answered).to.equal(1)
  })
  it('says which rows cannot be counted', () => {
    const { refused, answered } = heldBy(problem, survey(problem, [{ device: 'watch', age: 'child', pay: 'card' }]))
    expect(refused.map(({ message }) => message).join()).to.include('watch')
    expect(answered).to.be.at.most(3)
  })
})

describe('whose rows hold what', () => {
  const of = (...rows: { owner: number; row: Record<string, string> }[]) =>
    ownersOfTuples(
      survey(
        problem,
        rows.map(({ row }) => row),
      ),
      rows.map(({ owner }) => owner),
    )
  const cash = { device: 'desk', age: 'child', pay: 'cash' }
  it('is told for each pair: what one of them holds alone, and what both do', () => {
    expect(of({ owner: 4, row: cash }, { owner: 7, row: { ...cash, age: 'adult' } })).to.have.deep.members([
      { owners: [4], targets: 2 },
      { owners: [7], targets: 2 },
      { owners: [4, 7], targets: 1 },
    ])
  })
  it('is told of a negative value alone, and not of the pairs that stand beside it', () => {
    const bad = { device: 'desk', age: 'minus one', pay: 'card' }
    expect(of({ owner: 2, row: bad }, { owner: 5, row: { ...bad, pay: 'cash' } })).to.deep.equal([
      { owners: [2, 5], targets: 1 },
    ])
  })
  it('leaves out rows that cannot be counted, wherever they stand', () => {
    const gone = { owner: 1, row: { ...cash, device: 'watch' } }
    const forbidden = { owner: 3, row: { ...cash, device: 'phone' } }
    expect(of(gone, { owner: 2, row: cash }, forbidden)).to.deep.equal([{ owners: [2], targets: 3 }])
  })
})

describe('the tuples a row adds', () => {
  const first = { device: 'desk', age: 'child', pay: 'cash' }
  it('are those no row before it has', () => {
    expect(tuplesAdded(problem, [], first)).to.have.length(3)
    expect(tuplesAdded(problem, [first], { ...first, age: 'adult' })).to.deep.equal([
      { device: 'desk', age: 'adult' },
      { age: 'adult', pay: 'cash' },
    ])
    expect(tuplesAdded(problem, [first], first)).to.deep.equal([])
  })
  it('are told up to a number', () => {
    expect(tuplesAdded(problem, [], first, 2)).to.have.length(2)
  })
})
