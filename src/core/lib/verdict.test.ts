import { expect } from 'chai'
import fc from 'fast-check'
import {
  entersAs,
  inWord,
  plainly,
  saidOf,
  type OwnVerdict,
  rollUp,
  rollUpSlots,
  type Verdict,
  verdicts,
} from './verdict.ts'

const some = fc.array(fc.constantFrom<Verdict>(...verdicts), { minLength: 1, maxLength: 8 })

it('takes the worst first: Failed, Blocked, Inconclusive', () => {
  expect(rollUp(['Passed', 'Blocked', 'Failed', 'Inconclusive'])).to.equal('Failed')
  expect(rollUp(['Passed', 'Not run', 'Blocked', 'Inconclusive'])).to.equal('Blocked')
  expect(rollUp(['Passed', 'Not run', 'Inconclusive'])).to.equal('Inconclusive')
})
it('tells what is not run from what is begun, and all skipped from passed', () => {
  expect(rollUp(['Not run', 'Not run'])).to.equal('Not run')
  expect(rollUp(['Not run', 'Passed'])).to.equal('In progress')
  expect(rollUp(['Skipped', 'Skipped'])).to.equal('Skipped')
  expect(rollUp(['Skipped', 'Passed'])).to.equal('Passed')
  expect(rollUp([])).to.equal(null)
})
it('counts Skipped as Not run among slots', () => {
  expect(rollUpSlots(['Skipped', 'Skipped'])).to.equal('Not run')
  expect(rollUpSlots(['Skipped', 'Passed'])).to.equal('In progress')
})
it('depends neither on order nor on repetition', () => {
  fc.assert(
    fc.property(some, (parts) => {
      expect(rollUp([...parts].reverse().concat(parts))).to.equal(rollUp(parts))
    }),
  )
})
it('agrees with the definition read line by line', () => {
  const definition = (parts: Verdict[]): Verdict => {
    const any = (of: Verdict) => parts.includes(of)
    const all = (of: Verdict) => parts.every((each) => each === of)
    if (any('Failed')) return 'Failed'
    if (any('Blocked')) return 'Blocked'
    if (any('Inconclusive')) return 'Inconclusive'
    if (any('Not run') || any('In progress')) return all('Not run') ? 'Not run' : 'In progress'
    return all('Skipped') ? 'Skipped' : 'Passed'
  }
  fc.assert(
    fc.property(some, (parts) => {
      expect(rollUp(parts)).to.equal(definition(parts))
    }),
  )
})
it('enters a verdict of a project’s own as what it counts as, or as begun while it is not final', () => {
  expect(entersAs({ countsAs: 'Passed', final: true })).to.equal('Passed')
  expect(entersAs({ countsAs: 'Blocked', final: false })).to.equal('In progress')
})

const inUse = { id: 1, sign: 'dot', tint: 'grey', retiredAt: null } as const
const remarks: OwnVerdict = {
  ...inUse,
  word: 'With remarks',
  countsAs: 'Passed',
  final: true,
  forItems: true,
  forSteps: true,
}
const waiting: OwnVerdict = {
  ...inUse,
  word: 'Waiting',
  countsAs: 'Blocked',
  final: false,
  forItems: true,
  forSteps: false,
}
it('takes what is said in a word of the project as what the word counts as, whatever verdict came with it', () => {
  const of = { verdict: 'Failed', word: 'with remarks', at: 5 } as const
  expect(saidOf([remarks, waiting], of, 'forSteps')).to.deep.equal(inWord(remarks))
  expect(saidOf([waiting], { verdict: 'Passed', word: 'Waiting', at: 5 }, 'forItems')).to.deep.equal({
    verdict: 'In progress',
    word: 'Waiting',
    final: false,
  })
})
it('knows no word that the project does not have, nor one it has for something else', () => {
  expect(saidOf([waiting], { verdict: 'Passed', word: 'Splendid', at: 5 }, 'forItems')).to.equal(null)
  expect(saidOf([waiting], { verdict: 'Passed', word: 'Waiting', at: 5 }, 'forSteps')).to.equal(null)
})
it('takes a retired word where it was given before it was retired, and not after', () => {
  const retired = { ...remarks, retiredAt: 10 }
  const given = (at: number) => saidOf([retired], { verdict: 'Passed', word: 'With remarks', at }, 'forItems')
  expect([given(9), given(10)]).to.deep.equal([inWord(remarks), null])
})
it('says the five plainly, each of them final, and what goes on as not', () => {
  expect(saidOf([], { verdict: 'Blocked', word: null, at: 5 }, 'forSteps')).to.deep.equal(plainly('Blocked'))
  expect([plainly('Passed').final, plainly('In progress').final]).to.deep.equal([true, false])
})
