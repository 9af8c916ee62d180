import { expect } from 'chai'
import fc from 'fast-check'
import { it } from 'mocha'
import { likeGroups, nearDuplicates, termsOf, termWeights, type Worded } from './near-duplicates.ts'

const worded = (id: number, title: string, ...actions: string[]): Worded => ({
  id,
  title,
  steps: actions.map((action) => ({ action, expected: '', data: '' })),
})

it('finds cases that say nearly the same and leaves others alone', () => {
  const cases = [
    worded(1, 'Refund within a day', 'Open the booking', 'Ask for the money back'),
    worded(2, 'Refund within one day', 'Open the booking', 'Ask for the money back'),
    worded(3, 'Deck plan of the Ove', 'Put a lorry on lane two'),
  ]
  const { pairs } = nearDuplicates(cases)
  expect(pairs.map(({ a, b }) => [a, b])).to.deep.equal([[1, 2]])
  expect(likeGroups(pairs).map(({ ids }) => ids)).to.deep.equal([[1, 2]])
})

const cases = fc
  .array(
    fc.record({
      title: fc.array(fc.constantFrom('pay', 'hold', 'fare', 'deck'), { minLength: 1, maxLength: 4 }),
      action: fc.array(fc.constantFrom('open', 'close', 'read'), { maxLength: 4 }),
    }),
    { maxLength: 9 },
  )
  .map((all) => all.map(({ title, action }, index) => worded(index + 1, title.join(' '), action.join(' '))))

it('finds exactly the pairs that comparing each with each finds', () =>
  fc.assert(
    fc.property(cases, fc.constantFrom(0.3, 0.5, 0.6, 0.8, 1), (all, atLeast) => {
      const sets = all.map((each) => ({ id: each.id, terms: termsOf(each) }))
      const weights = termWeights(sets.map(({ terms }) => terms))
      const told = (terms: Iterable<string>) => [...terms].reduce((sum, term) => sum + (weights.get(term) ?? 0), 0)
      const expected = sets.flatMap((x, index) =>
        sets.slice(index + 1).flatMap((y) => {
          const shared = told([...x.terms].filter((term) => y.terms.has(term)))
          return shared / (told(x.terms) + told(y.terms) - shared) >= atLeast - 1e-9 ? [`${x.id}-${y.id}`] : []
        }),
      )
      expect(
        nearDuplicates(all, { atLeast })
          .pairs.map(({ a, b }) => `${a}-${b}`)
          .sort(),
      ).to.deep.equal(expected.sort())
    }),
    { numRuns: 300 },
  ))
it('does not take cases for alike because all begin with the same steps', () => {
  const opening = ['Sign in as a clerk', 'Open a new booking from Ovemouth to Tarnsey', 'Look at the log']
  const many = ['pets', 'coaches', 'children', 'vouchers', 'night trains', 'bicycles', 'freight'].map(
    (subject, index) => worded(index + 1, `The fare of ${subject}`, ...opening, `Ask for the fare of ${subject}`),
  )
  const { pairs } = nearDuplicates(
    [...many, worded(9, 'The fare of coaches', ...opening, 'Ask for the fare of coaches', 'Print it')],
    { atLeast: 0.6 },
  )
  expect(pairs.map(({ a, b }) => [a, b])).to.deep.equal([[2, 9]])
})
it('stops at its bound, says so, and tells nothing that is not so', () => {
  const many = Array.from({ length: 60 }, (_, index) => worded(index + 1, 'The same title', 'The same step'))
  const all = nearDuplicates(many, { most: 5000 })
  expect([all.pairs.length, all.whole]).to.deep.equal([1770, true])
  const some = nearDuplicates(many, { most: 5000, comparisons: 100 })
  expect([some.pairs.length, some.whole]).to.deep.equal([100, false])
})
