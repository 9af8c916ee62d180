import { expect } from 'chai'
import fc from 'fast-check'
import { day, hour, instant, leftText, minute } from '../../standins/crossing-desk/clock.ts'
import { ageOn, bandOf } from '../../standins/crossing-desk/rules/ages.ts'
import {
  type Deck,
  emptyDeck,
  freeIn,
  lanes,
  placeOf,
  shares,
  withPlaced,
} from '../../standins/crossing-desk/rules/deck.ts'
import { fareOf, largest, lowestFare, reductions, totalOf } from '../../standins/crossing-desk/rules/fares.ts'
import { backPercent, closesAt } from '../../standins/crossing-desk/rules/times.ts'
import { centimetres, kinds, lengthBand, type Vehicle } from '../../standins/crossing-desk/rules/vehicles.ts'
import { sailingById } from '../../standins/crossing-desk/sailings.ts'

// The rules on a build without faults.
const none = () => false
const sailing = (id: string) => {
  const found = sailingById(id)
  if (!found) throw new Error(id)
  return found
}
const on = (date: string) => ({ sails: instant(date, '10:40'), booked: instant('2026-05-12', '09:00') })

describe('rules of Crossing Desk', () => {
  for (const [born, sails, band] of [
    ['2022-05-14', '2026-05-13', 'infant'],
    ['2022-05-13', '2026-05-13', 'child'],
    ['2010-05-14', '2026-05-13', 'child'],
    ['2010-05-13', '2026-05-13', 'adult'],
    ['1961-05-14', '2026-05-13', 'adult'],
    ['1961-05-13', '2026-05-13', 'senior'],
    ['2024-02-29', '2028-02-28', 'infant'],
    ['2024-02-29', '2028-02-29', 'child'],
  ] as const)
    it(`somebody born on ${born} is ${band} on ${sails}`, () => expect(bandOf(born, on(sails), none)).to.equal(band))
  it('a leap-day birthday counts on 1 March', () =>
    expect([ageOn('2020-02-29', '2026-02-28'), ageOn('2020-02-29', '2026-03-01')]).to.deep.equal([5, 6]))

  for (const [length, band] of [
    [450, 'small'],
    [451, 'middle'],
    [600, 'middle'],
    [601, 'large'],
    [900, 'large'],
    [901, 'freight'],
  ] as const)
    it(`${length / 100} m is ${band}`, () =>
      expect(lengthBand({ kind: 'van', length, trailer: 0 }, none)).to.equal(band))
  it('reads metres with a point or a comma, and nothing else', () =>
    expect(
      ['4.51', '4,51', ' 4.5 m', '12', '4.515', 'four', '-1', '1e1'].map((text) => centimetres(text, none)),
    ).to.deep.equal([451, 451, 450, 1200, null, null, null, null]))

  it('gives the largest reduction alone, of equal ones the first', () =>
    fc.assert(
      fc.property(fc.uniqueArray(fc.constantFrom(...reductions)), (some) => {
        const given = largest(some, none)
        if (some.length === 0) return given === null
        return given !== null && some.includes(given) && (!some.includes('islander') || given === 'islander')
      }),
    ))
  it('never asks more than the full fare, nor less than the lowest of somebody who pays', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            born: fc.date({ min: new Date('1930-01-01'), max: new Date('2026-05-01'), noInvalidDate: true }),
            islander: fc.boolean(),
          }),
          {
            minLength: 1,
            maxLength: 14,
          },
        ),
        fc.constantFrom('OVTA-260513-0630', 'OVTA-260513-1040', 'OVLS-260515-1610'),
        (people, id) => {
          const passengers = people.map(({ born, islander }) => ({
            name: 'A',
            born: born.toISOString().slice(0, 10),
            islander,
          }))
          const lines = fareOf(
            { sailing: sailing(id), other: null, passengers, vehicle: null, pets: 0, bicycles: 0, booked: 0 },
            none,
          )
          for (const { full, amount } of lines) {
            expect(amount).to.be.at.most(full)
            if (full > 0) expect(amount).to.be.at.least(Math.min(full, lowestFare))
          }
          expect(totalOf(lines)).to.equal(lines.reduce((sum, { amount }) => sum + amount, 0))
        },
      ),
    ))
  for (const [back, reduction] of [
    ['TAOV-260516-0930', 'return'],
    ['TAOV-260516-1135', 'return'],
    ['TAOV-260516-1540', null],
  ] as const)
    it(`a return by ${back} ${reduction ? 'is' : 'is not'} within three days`, () => {
      const passengers = [{ name: 'A', born: '1984-03-02', islander: false }]
      const [line] = fareOf(
        {
          sailing: sailing('OVTA-260513-1040'),
          other: sailing(back),
          passengers,
          vehicle: null,
          pets: 0,
          bicycles: 0,
          booked: 0,
        },
        none,
      )
      expect(line?.reduction).to.equal(reduction)
    })
  for (const [id, reduction] of [
    ['OVTA-260513-0630', 'off-peak'],
    ['OVLS-260513-0700', null],
    ['OVTA-260513-2030', 'off-peak'],
    ['OVTA-260515-2030', null],
  ] as const)
    it(`${id} ${reduction ? 'is' : 'is not'} off-peak`, () => {
      const passengers = [{ name: 'A', born: '1984-03-02', islander: false }]
      const [line] = fareOf(
        { sailing: sailing(id), other: null, passengers, vehicle: null, pets: 0, bicycles: 0, booked: 0 },
        none,
      )
      expect(line?.reduction).to.equal(reduction)
    })

  for (const [left, percent] of [
    [7 * day, 100],
    [7 * day - 1, 50],
    [day, 50],
    [day - 1, 0],
  ] as const)
    it(`who cancels ${left / hour} hours before gets ${percent} % back`, () =>
      expect(backPercent(0, left, none)).to.equal(percent))
  it('closes check-in 30 minutes before with a vehicle, 15 on foot, later by a delay', () => {
    const closes = (withVehicle: boolean, delay: number) =>
      closesAt({ departs: 2 * hour, delay, withVehicle }, none) / minute
    expect([closes(true, 0), closes(false, 0), closes(true, 40)]).to.deep.equal([90, 105, 130])
  })
  it('tells the time left to the second', () =>
    expect([leftText(20 * minute), leftText(61_001), leftText(999), leftText(-5)]).to.deep.equal([
      '20:00',
      '01:02',
      '00:01',
      '00:00',
    ]))

  const vehicle = fc.record<Vehicle>({
    kind: fc.constantFrom(...kinds),
    length: fc.integer({ min: 200, max: 900 }),
    height: fc.integer({ min: 120, max: 430 }),
    trailer: fc.constantFrom(0, 0, 200),
    weight: fc.integer({ min: 0, max: 20_000 }),
    goods: fc.constantFrom(null, null, '1', '2', '3'),
    declared: fc.boolean(),
  })
  it('never fills a lane beyond its metres, a side beyond 55 % or the stairs with goods, whatever comes', () =>
    fc.assert(
      fc.property(fc.array(vehicle, { maxLength: 40 }), (all) => {
        let deck: Deck = { ...emptyDeck, closed: ['F3'] }
        all.forEach((each, at) => {
          const placed = placeOf(deck, { code: `TF-${at}`, vehicle: each, to: 'TA' }, none)
          if (typeof placed !== 'string') deck = withPlaced(deck, placed, none)
        })
        for (const lane of lanes) expect(freeIn(deck, lane, none)).to.be.at.least(0)
        const { port, starboard } = shares(deck, none)
        expect(Math.max(port, starboard)).to.be.at.most(0.5505)
        expect(deck.placed.some(({ lane }) => lane === 'F3')).to.equal(false)
        expect(deck.placed.some(({ lane, vehicle: { goods } }) => lane === 'F2' && goods !== null)).to.equal(false)
        const classes = new Set(deck.placed.map(({ vehicle: { goods } }) => goods))
        expect(classes.has('1') && classes.has('3')).to.equal(false)
      }),
    ))
})
