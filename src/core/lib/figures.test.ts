import { expect } from 'chai'
import fc from 'fast-check'
import { counted, minutesIn, minutesText, noMinutes, percent, percentText } from './figures.ts'

it('rounds down, and says 100 only when it is all', () => {
  expect(percent(199, 200)).to.equal(99)
  expect(percent(200, 200)).to.equal(100)
  expect(percent(1, 3)).to.equal(33)
})
it('says <1 for a small something, 0 for nothing, and null for nothing to count', () => {
  expect(percent(1, 1000)).to.equal('<1')
  expect(percent(0, 1000)).to.equal(0)
  expect(percent(0, 0)).to.equal(null)
  expect([percentText(null), percentText('<1')]).to.deep.equal(['–', '<1 %'])
})
it('never rounds a part up to the whole, whatever the counts', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), fc.nat(1e6), (whole, some) => {
      const part = Math.min(some, whole)
      const share = percent(part, whole)
      expect(share === 100).to.equal(part === whole)
      expect(share === 0).to.equal(part === 0)
      if (typeof share === 'number') expect(share).to.be.at.most((100 * part) / whole + 1e-6)
    }),
  )
})
it('forgives the dust of added weights', () => expect(percent(0.1 + 0.2 + 0.3, 1)).to.equal(60))
it('words minutes and counts', () => {
  expect([minutesText(45), minutesText(60), minutesText(130)]).to.deep.equal(['45 min', '1 h', '2 h 10'])
  expect([counted(1, 'case'), counted(12_000, 'case')]).to.deep.equal(['1 case', '12 000 cases'])
})
describe('minutes as people type them', () => {
  it('are whole minutes, or hours with or without minutes', () => {
    const typed = ['90', '45 min', '1h 30', '1 h 30 min', '1:05', '2 h', '1.5h', '0,25 h', ' 12 m ', '']
    expect(typed.map(minutesIn)).to.deep.equal([90, 45, 90, 90, 65, 120, 90, 15, 12, null])
  })
  it('are nothing else: a fraction of a minute, words, none, too many', () => {
    for (const text of ['12.5', 'soon', '0', '0 h', '-5', '1h 75', '1.5h 30', '10001', '999 h', '1e3'])
      expect(minutesIn(text), text).to.equal(undefined)
    expect(noMinutes(' 12.5 ')).to.include('“12.5” is no estimate')
  })
  it('come back from how they are shown', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000 }), (minutes) => {
        expect(minutesIn(minutesText(minutes))).to.equal(minutes)
      }),
    )
  })
})
