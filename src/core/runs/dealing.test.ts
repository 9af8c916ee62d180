import { expect } from 'chai'
import fc from 'fast-check'
import { dealEvenly, dealKnowing, knowledge } from './dealing.ts'

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

describe('dealing to those who know it', () => {
  const knows = (item: number, person: string) => (person === 'mira' && item <= 4 ? 3 : 0)
  const four = [1, 2, 3, 4].map((id) => ({ id, minutes: 30 }))

  it('gives what somebody knows to them while they have room, and the rest to whoever has least', () => {
    const dealt = dealKnowing(four, ['mira', 'tobin'], { knows })
    // An even share is 60 minutes, and 1.2 of it is room for two of thirty.
    expect(dealt.filter(({ person }) => person === 'mira')).to.have.lengthOf(2)
    const more = dealKnowing([...four, { id: 5, minutes: 120 }], ['mira', 'tobin'], { knows })
    expect(more.find(({ item }) => item === 5)?.person).to.equal('mira')
    expect(dealKnowing(four, [], { knows })).to.deep.equal([])
  })
  it('prefers whoever knows it better, and among equals whoever has less', () => {
    const best = (_: number, person: string) => (person === 'priya' ? 4 : 2)
    expect(dealKnowing([{ id: 1, minutes: 5 }], ['mira', 'priya'], { load: { mira: 60 }, knows: best })).to.deep.equal([
      { item: 1, person: 'priya' },
    ])
    expect(
      dealKnowing([{ id: 1, minutes: 5 }], ['mira', 'priya'], { load: { mira: 60 }, knows: () => 1 }),
    ).to.deep.equal([{ item: 1, person: 'priya' }])
  })
  it('deals every item once, and nobody is given what they know beyond 1.2 times an even share', () => {
    const minutes = fc.array(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 30 })
    fc.assert(
      fc.property(minutes, fc.integer({ min: 1, max: 5 }), fc.integer(), (all, count, seed) => {
        const items = all.map((each, id) => ({ id, minutes: each }))
        const people = Array.from({ length: count }, (_, index) => `p${index}`)
        const known = (item: number, person: string) => (item * 7 + Number(person.slice(1)) * 3 + seed) % 3
        const dealt = dealKnowing(items, people, { knows: known })
        expect(dealt.map(({ item }) => item).sort((a, b) => a - b)).to.deep.equal(items.map(({ id }) => id))
        const share = all.reduce((sum, each) => sum + each, 0) / count
        for (const person of people) {
          const of = dealt.filter((each) => each.person === person)
          const load = of.reduce((sum, { item }) => sum + (all[item] ?? 0), 0)
          // Beyond it nobody is chosen for knowing: whoever is over it was the one with least before the last.
          const longest = Math.max(...of.map(({ item }) => all[item] ?? 0), 0)
          expect(load).to.be.at.most(Math.max(1.2 * share, share + longest) + 1e-9)
        }
      }),
    )
  })
  it('counts a skill for more than a defect, a defect for more than an attempt, and often for no more than five times', () => {
    const nothing = { skills: 0, attempts: 0, defects: 0 }
    expect(knowledge(nothing)).to.equal(0)
    expect(knowledge({ ...nothing, skills: 1 })).to.be.greaterThan(knowledge({ ...nothing, defects: 1 }))
    expect(knowledge({ ...nothing, defects: 1 })).to.be.greaterThan(knowledge({ ...nothing, attempts: 1 }))
    expect(knowledge({ ...nothing, attempts: 500 })).to.equal(knowledge({ ...nothing, attempts: 5 }))
  })
})
