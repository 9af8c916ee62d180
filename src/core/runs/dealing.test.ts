import { expect } from 'chai'
import fc from 'fast-check'
import { dealEvenly } from './dealing.ts'

it('evens out minutes, not counts', () => {
  expect(
    dealEvenly(
      [
        { id: 1, minutes: 60 },
        { id: 2, minutes: 20 },
        { id: 3, minutes: 20 },
        { id: 4, minutes: 20 },
      ],
      ['mira', 'tobin'],
    ).filter(({ person }) => person === 'mira'),
  ).to.deep.equal([{ item: 1, person: 'mira' }])
})
it('counts what people already have, and deals nothing to nobody', () => {
  expect(dealEvenly([{ id: 1, minutes: 10 }], ['mira', 'tobin'], { mira: 30 })).to.deep.equal([
    { item: 1, person: 'tobin' },
  ])
  expect(dealEvenly([{ id: 1, minutes: 10 }], [])).to.deep.equal([])
})
it('deals every item once and stays within the longest-first bound of any balance', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 1, max: 90 }), { maxLength: 40 }),
      fc.integer({ min: 1, max: 6 }),
      (minutes, count) => {
        const items = minutes.map((each, index) => ({ id: index, minutes: each }))
        const people = Array.from({ length: count }, (_, index) => `p${index}`)
        const dealt = dealEvenly(items, people)
        expect(dealt.map(({ item }) => item).sort((a, b) => a - b)).to.deep.equal(items.map(({ id }) => id))
        const load = people.map((person) =>
          dealt.filter((each) => each.person === person).reduce((sum, { item }) => sum + (minutes[item] ?? 0), 0),
        )
        const least = Math.max(minutes.reduce((a, b) => a + b, 0) / count, ...minutes, 0)
        expect(Math.max(0, ...load)).to.be.at.most(
          least * (4 / 3 - 1 / (3 * count)) + Math.max(0, ...minutes) / 3 + 1e-9,
        )
      },
    ),
  )
})
