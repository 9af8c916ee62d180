import { expect } from 'chai'
import { byRun, minutesTyped, notesOf, partIn, percentTyped, rowsAt } from './line-figures.ts'

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
it('reads a part of the time as people type it, and nothing that cannot be kept back', () => {
  const typed = { '10': 10, '12.5 %': 12.5, '0,5': 0.5, '90': 90, '0 %': 0 }
  for (const [text, percent] of Object.entries(typed)) expect(percentTyped(text), text).to.equal(percent)
  for (const text of ['', '91', '-1', 'half', '1/2']) expect(percentTyped(text), text).to.equal(null)
})
it('has items by their runs, and leaves out runs none of them is in', () => {
  const run = (key: string) => ({ key }) as never
  const of = { ids: [4, 5, 6, 7], runOf: [1, 0, 1, 2], runs: [run('RN-9'), run('RN-8'), run('RN-7')] } as never
  expect(byRun(of, [6, 5, 4])).to.deep.equal([
    { ref: 'RN-9', ids: [5] },
    { ref: 'RN-8', ids: [6, 4] },
  ])
})
it('says of an item what cannot be before where it slipped from', () => {
  const slipped = [
    { item: 1, person: 'ansa', day: '2026-11-27' },
    { item: 2, person: 'ansa', day: '2026-11-27' },
  ]
  const problems = [
    { item: 2, words: 'takes too long' },
    { item: null, words: 'no hours' },
  ]
  const notes = notesOf({ slipped, problems } as never, ({ day }) => `slipped from ${day}`)
  expect([...notes]).to.deep.equal([
    [1, 'slipped from 2026-11-27'],
    [2, 'takes too long; slipped from 2026-11-27'],
  ])
})
