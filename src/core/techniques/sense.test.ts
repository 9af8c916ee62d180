import { expect } from 'chai'
import fc from 'fast-check'
import { draft, type DraftInput } from './draft.ts'
import { meter } from './meter.ts'
import type { DraftAnswer } from './draft-answer.ts'
import { type DraftModel, draftModel, type DraftRow } from './draft-row.ts'
import { senseOf, turned } from './sense.ts'

const read = (model: DraftInput): DraftModel => draftModel.parse(model)
const ages = (from: number): DraftModel =>
  read({
    technique: 'boundaries',
    body: { inputs: { age: { type: 'integer', partitions: [{ name: 'adult', from, to: 64, valid: true }] } } },
  })
const fares = (resident: string): DraftModel =>
  read({
    technique: 'decisions',
    body: {
      conditions: { resident: ['yes', 'no'] },
      rules: [
        { when: { resident: ['yes'] }, then: { fare: resident } },
        { when: { resident: ['no'] }, then: { fare: 'full' } },
      ],
    },
  })
function drafted(model: DraftModel, accepted: readonly DraftRow[], said: readonly (string | null)[]): DraftAnswer {
  const search = draft(model, accepted, said)
  for (;;) {
    const step = search.next()
    if (step.done) return step.value
  }
}

describe('what a case says by a model', () => {
  it('is whether its values are accepted, or their outcome', () => {
    expect(senseOf(ages(16), { age: '15' })).to.equal('it is refused')
    expect(senseOf(ages(16), { age: '16' })).to.equal('it is accepted')
    expect(senseOf(fares('half'), { resident: 'yes' })).to.equal('fare: half')
    expect(senseOf(fares('half'), { resident: 'maybe' })).to.equal(null)
    // An outcome that nobody has typed yet is nothing that could turn.
    expect(senseOf(fares(''), { resident: 'yes' })).to.equal(null)
    const cards = read({
      technique: 'combos',
      body: { parameters: { card: ['a'], desk: ['1'] }, negative: { card: ['z'] } },
    })
    expect(senseOf(cards, { card: 'z', desk: '1' })).to.equal('it is refused')
    expect(senseOf(cards, { card: 'a', desk: '1' })).to.equal('it is accepted')
    expect(senseOf(cards, { card: 'gone', desk: '1' })).to.equal(null)
  })
  it('of dates and sets goes by their order and their members', () => {
    const days = read({
      technique: 'boundaries',
      body: {
        inputs: {
          day: { type: 'date', partitions: [{ name: 'summer', from: '2026-06-01', to: '2026-08-31', valid: true }] },
          card: { type: 'set', partitions: [{ name: 'known', values: ['visa', 'ovia'], valid: true }] },
        },
      },
    })
    expect(senseOf(days, { day: '2026-06-01', card: 'ovia' })).to.equal('it is accepted')
    expect(senseOf(days, { day: '2026-09-01', card: 'ovia' })).to.equal('it is refused')
    expect(senseOf(days, { day: '2026-06-01', card: 'none' })).to.equal('it is refused')
  })
})

describe('an accepted case whose model says the opposite by now', () => {
  it('is to be changed, answers nothing, and its row is proposed anew', () => {
    const row = { age: '16' }
    const before = ages(17)
    const said = [senseOf(before, row)]
    expect(said).to.deep.equal(['it is refused'])
    const answer = drafted(ages(16), [row], said)
    expect(answer.standing).to.deep.equal([
      { state: 'changed', why: 'it says “it is refused”, and by the model it is accepted now' },
    ])
    expect([answer.answered, meter(ages(16), [row], said).answered]).to.deep.equal([0, 0])
    expect(answer.proposed.map((each) => each.row)).to.deep.include(row)
  })
  it('is one with another outcome too', () => {
    const row = { resident: 'yes' }
    const answer = drafted(fares('free'), [row, { resident: 'no' }], ['fare: half', 'fare: full'])
    expect(answer.standing.map(({ state }) => state)).to.deep.equal(['changed', 'kept'])
    expect(answer.answered).to.equal(1)
  })
  it('is none while the model says the same, or nobody knows what it said', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 0, max: 70 }), (from, age) => {
        const row = { age: String(age) }
        expect(turned(ages(from), row, senseOf(ages(from), row))).to.equal(null)
        expect(turned(ages(from), row, null)).to.equal(null)
      }),
    )
  })
  it('is never counted, whichever boundary moves', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 60 }), fc.integer({ min: 2, max: 60 }), (was, is) => {
        const accepted = drafted(ages(was), [], []).proposed.map((each) => each.row)
        const said = accepted.map((row) => senseOf(ages(was), row))
        const { standing } = drafted(ages(is), accepted, said)
        standing.forEach(({ state }, at) => {
          const opposite = senseOf(ages(is), accepted[at] ?? {}) !== said[at]
          expect(state === 'changed').to.equal(opposite)
        })
      }),
    )
  })
})
