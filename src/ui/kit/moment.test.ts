import { expect } from 'chai'
import { clockText, dayText, exactClockText, fullMomentText, momentText, todayIn, writeDatesFor } from './moment.ts'

const at = Date.UTC(2026, 10, 27, 22, 5, 9)
const readers = [
  { language: 'en-GB', timeZone: 'UTC', moment: '27 Nov, 22:05', clock: '22:05', day: '27 Nov' },
  { language: 'en-GB', timeZone: 'Asia/Tokyo', moment: '28 Nov, 07:05', clock: '07:05', day: '27 Nov' },
  { language: 'de-DE', timeZone: 'Europe/Helsinki', moment: '28. Nov., 00:05', clock: '00:05', day: '27. Nov.' },
]

describe('moments', () => {
  afterEach(() => writeDatesFor({ language: 'en-GB', timeZone: 'UTC' }))

  it('are written for who reads, by their clock and language, whoever read before them', () => {
    for (const { language, timeZone, moment, clock, day } of [...readers, ...readers]) {
      writeDatesFor({ language, timeZone })
      expect([momentText(at), clockText(at), dayText('2026-11-27')]).to.deep.equal([moment, clock, day])
    }
  })

  it('leave a project its own today, wherever the reader lives', () => {
    writeDatesFor({ language: 'en-GB', timeZone: 'UTC' })
    // A day and an hour apart: it is never the same day in both.
    expect(todayIn({ timeZone: 'Pacific/Kiritimati' }) > todayIn({ timeZone: 'Pacific/Niue' })).to.equal(true)
    expect(todayIn({ timeZone: 'UTC' })).to.equal(new Date().toISOString().slice(0, 10))
  })

  it('are the same as a format made for each of them, in however many zones', () => {
    for (const timeZone of Intl.supportedValuesOf('timeZone').slice(0, 120)) {
      writeDatesFor({ language: 'en-GB', timeZone })
      const as = (how: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat('en-GB', { timeZone, ...how }).format(at)
      expect(fullMomentText(at), timeZone).to.equal(as({ dateStyle: 'medium', timeStyle: 'short' }))
      expect(exactClockText(at), timeZone).to.equal(as({ timeStyle: 'medium' }))
      expect(dayText('2026-11-27'), timeZone).to.equal('27 Nov')
    }
  })
})
