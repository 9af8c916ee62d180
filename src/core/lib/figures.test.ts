import { expect } from 'chai'
import fc from 'fast-check'
import { counted, minutesText, percent, percentText } from './figures.ts'

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
