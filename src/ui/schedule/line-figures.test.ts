import { expect } from 'chai'
import { minutesTyped, partIn, rowsAt } from './line-figures.ts'

it('reads hours as people type them', () => {
  const typed = { '44': 2640, '44.5': 2670, '44,5 h': 2670, '7 h 30': 450, '90 min': 90, '0': 0 }
  for (const [text, minutes] of Object.entries(typed)) expect(minutesTyped(text), text).to.equal(minutes)
  for (const text of ['', 'many', '-3', '3 days', '7:30']) expect(minutesTyped(text), text).to.equal(null)
})
it('says all only where it is all', () => {
  expect([partIn([0, 1, 2], 2), partIn([0, 999, 1000], 1), partIn([0], 0)]).to.deep.equal([100, 99, 0])
})
it('keeps the line among the rows', () => {
  expect([rowsAt(-40, 32, 9), rowsAt(40, 32, 9), rowsAt(5000, 32, 9)]).to.deep.equal([0, 1, 9])
})
