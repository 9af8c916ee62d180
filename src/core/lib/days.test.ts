import { expect } from 'chai'
import fc from 'fast-check'
import { dayAfter, daysBetween, dayIn, instantOnClock, startOfDay, wallClock, weekdayOf } from './days.ts'

const zones = ['Europe/Oslo', 'America/New_York', 'Asia/Kolkata', 'Pacific/Auckland', 'UTC']
const anyZone = fc.constantFrom(...zones)
const anyInstant = fc.integer({ min: Date.UTC(2001, 0), max: Date.UTC(2060, 0) })
const anyDay = anyInstant.map((at) => dayIn('UTC', at))

describe('days', () => {
  it('tells the plain date an instant has where one lives', () => {
    const late = Date.UTC(2026, 10, 23, 23, 30)
    expect(zones.map((zone) => dayIn(zone, late))).to.deep.equal([
      '2026-11-24',
      '2026-11-23',
      '2026-11-24',
      '2026-11-24',
      '2026-11-23',
    ])
  })
  it('finds the beginning of a day within that day, with the day before just before it', () =>
    fc.assert(
      fc.property(anyZone, anyInstant, (zone, at) => {
        const start = startOfDay(zone, at)
        // On the two days a year on which clocks are set, the hour of midnight itself may be missing or twice.
        fc.pre(dayIn(zone, start - 3_700_000) !== dayIn(zone, start + 3_700_000))
        expect(start).to.be.at.most(at)
        expect(dayIn(zone, start + 3_700_000)).to.equal(dayIn(zone, at))
      }),
    ))
  it('counts days over months and years', () => {
    expect([dayAfter('2026-12-30', 3), dayAfter('2028-02-28', 1), dayAfter('2026-03-01', -1)]).to.deep.equal([
      '2027-01-02',
      '2028-02-29',
      '2026-02-28',
    ])
  })
  it('adds days that can be taken back', () =>
    fc.assert(
      fc.property(anyDay, fc.integer({ min: -4000, max: 4000 }), (day, n) => {
        expect(dayAfter(dayAfter(day, n), -n)).to.equal(day)
      }),
    ))
  it('are told from one to another, each once, and no more than asked for', () => {
    expect(daysBetween('2026-02-27', '2026-03-02', 9)).to.deep.equal([
      '2026-02-27',
      '2026-02-28',
      '2026-03-01',
      '2026-03-02',
    ])
    expect(daysBetween('2026-02-27', '2026-03-02', 2)).to.deep.equal(['2026-02-27', '2026-02-28'])
    expect(daysBetween('2026-03-02', '2026-02-27', 9)).to.deep.equal([])
  })
  it('knows the days of the week, Monday first', () => {
    const week = Array.from({ length: 7 }, (_, n) => weekdayOf(dayAfter('2026-11-23', n)))
    expect(week).to.deep.equal([1, 2, 3, 4, 5, 6, 7])
  })
  it('reads back what clocks show, wherever one lives', () =>
    fc.assert(
      fc.property(anyZone, anyInstant, (zone, at) => {
        const shown = wallClock(zone, at)
        const again = instantOnClock(zone, shown)
        // An hour that comes twice shows the same for two instants.
        expect(again === null ? '' : wallClock(zone, again)).to.equal(shown)
        expect(Math.abs((again ?? 0) - at)).to.be.below(3_700_000)
      }),
    ))
  it('reads no instant from what is no day and hour', () => {
    expect(['', 'tomorrow', '2026-13-01T08:00'].map((text) => instantOnClock('UTC', text))).to.deep.equal([
      null,
      null,
      null,
    ])
    expect(instantOnClock('Europe/Oslo', '2026-07-01T08:00')).to.equal(Date.UTC(2026, 6, 1, 6))
  })
})
