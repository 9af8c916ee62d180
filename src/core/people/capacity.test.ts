import { expect } from 'chai'
import fc from 'fast-check'
import { minutesOn, minutesPerDay } from './capacity.ts'

const monday = '2026-11-23'
const own = {
  workingMinutes: 480,
  freePercent: 75,
  sharePercent: 50,
  workingDays: '1,2,3,4,5',
  absences: [] as { startOn: string; endOn: string; minutes: number | null }[],
}
const away = (startOn: string, endOn: string, minutes: number | null = null) => ({
  ...own,
  absences: [{ startOn, endOn, minutes }],
})
const percent = fc.integer({ min: 0, max: 100 })

describe('capacity', () => {
  it('is working minutes × share for the project × share really free', () => {
    expect(minutesOn(monday, own)).to.equal(180)
    expect(minutesPerDay({ workingMinutes: 450, sharePercent: 100, freePercent: 60 })).to.equal(270)
  })
  it('is nothing on a day on which the project does not work', () => {
    expect(minutesOn('2026-11-28', own)).to.equal(0)
    expect(minutesOn('2026-11-28', { ...own, workingDays: '6,7' })).to.equal(180)
  })
  it('is nothing on the first and the last day away and between, and all of it around', () => {
    const of = away('2026-11-24', '2026-11-26')
    const days = ['2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27']
    expect(days.map((day) => minutesOn(day, of))).to.deep.equal([180, 0, 0, 0, 180])
  })
  it('takes an absence of hours from the working hours, before the shares', () =>
    expect(minutesOn(monday, away(monday, monday, 240))).to.equal(90))
  it('adds absences of one day up, and never falls below nothing', () => {
    const of = { ...own, absences: [...away(monday, monday, 300).absences, ...away(monday, monday, 300).absences] }
    expect(minutesOn(monday, of)).to.equal(0)
  })
  it('never gives more than the working day, and less with every absence', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1440 }),
        percent,
        percent,
        fc.integer({ min: 1, max: 1440 }),
        (w, s, f, gone) => {
          const hours = { ...own, workingMinutes: w, sharePercent: s, freePercent: f }
          const all = minutesOn(monday, hours)
          const left = minutesOn(monday, { ...hours, absences: [{ startOn: monday, endOn: monday, minutes: gone }] })
          expect(all).to.be.at.most(w)
          expect(left).to.be.at.most(all)
          expect(left).to.be.at.least(0)
        },
      ),
    ))
})
