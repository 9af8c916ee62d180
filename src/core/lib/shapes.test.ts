import { expect } from 'chai'
import fc from 'fast-check'
import { plainDate } from './shapes.ts'

describe('a plain date', () => {
  it('is a day of the calendar', () => {
    const days = fc.date({ min: new Date('1900-01-01'), max: new Date('2199-12-31'), noInvalidDate: true })
    fc.assert(fc.property(days, (day) => plainDate.safeParse(day.toISOString().slice(0, 10)).success))
  })
  for (const wrong of ['2026-02-31', '2026-02-29', '2026-13-01', '2026-00-10', '2026-4-1', '2026-11-23T00:00', ''])
    it(`is not ${wrong || 'nothing'}`, () => {
      const { error } = plainDate.safeParse(wrong)
      expect(error?.issues[0]?.message).to.equal('is no day of the calendar such as 2026-11-23')
    })
  it('knows leap years', () => {
    expect(['2024-02-29', '2000-02-29', '1900-02-29'].map((day) => plainDate.safeParse(day).success)).to.deep.equal([
      true,
      true,
      false,
    ])
  })
})
