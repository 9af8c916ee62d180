import { expect } from 'chai'
import fc from 'fast-check'
import { appliesTo, customProblem, valuesFromCell } from './custom.ts'

const field = (kind: Parameters<typeof customProblem>[0]['kind'], choices: string[] = []) => ({ kind, choices })

it('takes what fits a field and says what does not', () => {
  expect(customProblem(field('number'), ['12.5'])).to.equal(null)
  expect(customProblem(field('number'), ['-3'])).to.equal(null)
  expect(customProblem(field('number'), ['1e3'])).to.equal('“1e3” is not a number')
  expect(customProblem(field('date'), ['2026-02-31x'])).to.match(/is not a date/)
  expect(customProblem(field('date'), ['2026-11-23'])).to.equal(null)
  expect(customProblem(field('choice', ['a', 'b']), ['c'])).to.equal('“c” is none of a, b')
  expect(customProblem(field('choice', ['a', 'b']), ['a', 'b'])).to.equal('takes one value')
  expect(customProblem(field('multi-choice', ['a', 'b']), ['a', 'b'])).to.equal(null)
  expect(customProblem(field('link'), ['javascript:alert(1)'])).to.match(/begins with http/)
  expect(customProblem(field('link'), ['https://tarnsey.example/a'])).to.equal(null)
  expect(customProblem(field('text'), [])).to.equal(null)
})
it('asks a field of the types it is for, and of all when it names none', () => {
  expect([
    appliesTo({ types: [] }, 'Load'),
    appliesTo({ types: ['Load'] }, 'Load'),
    appliesTo({ types: ['Load'] }, 'Security'),
  ]).to.deep.equal([true, true, false])
})
it('splits a cell only where several values are meant', () => {
  expect(valuesFromCell(field('multi-choice'), 'a; b ;;c')).to.deep.equal(['a', 'b', 'c'])
  expect(valuesFromCell(field('text'), 'a; b')).to.deep.equal(['a; b'])
  expect(valuesFromCell(field('text'), '  ')).to.deep.equal([])
})
it('never takes a number that a comparison would not understand', () =>
  fc.assert(
    fc.property(
      fc.string(),
      (text) => customProblem(field('number'), [text]) !== null || Number.isFinite(Number(text)),
    ),
  ))
