import { expect } from 'chai'
import fc from 'fast-check'
import { answerTo, questionText } from './question.ts'

it('takes what was served for the very question it answers, and for no other', () => {
  const served = { asked: { params: { key: 'FERRY' }, query: { release: '2.4' } }, answer: 'figures of 2.4' }
  expect(answerTo({ query: { release: '2.4' }, params: { key: 'FERRY' } }, served)).to.equal('figures of 2.4')
  expect(answerTo({ params: { key: 'FERRY' }, query: { release: '2.3' } }, served)).to.equal(undefined)
  expect(answerTo({ params: { key: 'FERRY' }, query: {} }, served)).to.equal(undefined)
  expect(answerTo({ params: { key: 'DEPOT' }, query: { release: '2.4' } }, served)).to.equal(undefined)
  expect(answerTo({ params: { key: 'FERRY' } }, null)).to.equal(undefined)
})
it('reads the same question in any order, and a part left open as one not said', () =>
  fc.assert(
    fc.property(fc.dictionary(fc.string(), fc.oneof(fc.string(), fc.integer(), fc.constant(undefined))), (query) => {
      const turned = Object.fromEntries(
        Object.entries(query)
          .reverse()
          .filter(([, value]) => value !== undefined),
      )
      expect(questionText({ query: turned })).to.equal(questionText({ query }))
    }),
  ))
it('tells questions apart that differ in one value', () =>
  fc.assert(
    fc.property(fc.string(), fc.string(), (a, b) => {
      fc.pre(a !== b)
      expect(questionText({ query: { text: a } })).to.not.equal(questionText({ query: { text: b } }))
    }),
  ))
